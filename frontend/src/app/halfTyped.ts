/** What stood unsaved in fields when the page was closed or loaded anew: kept for this window, put back once. */

interface HalfTyped {
  path: string;
  /** Names of what surrounds the field, the nearest first, and its own label. */
  where: readonly string[];
  label: string;
  text: string;
}

const KEY = "weary-cedar half typed";
const SURROUNDS = "details, fieldset, section, tr, li";

type Field = HTMLInputElement | HTMLTextAreaElement;

const fields = () => [...document.querySelectorAll<Field>("#work input, #work textarea")];

const labelOf = (field: Field) =>
  (field.labels?.[0]?.textContent ?? field.getAttribute("aria-label") ?? "").trim();

function nameOf(box: Element): string {
  const title = box.querySelector(":scope > summary, :scope > legend, :scope > h2, :scope > th");
  return (box.getAttribute("aria-label") ?? title?.textContent ?? "").trim();
}

function surroundings(field: Element): string[] {
  const names: string[] = [];
  for (let box = field.closest(SURROUNDS); box; box = box.parentElement?.closest(SURROUNDS) ?? null)
    names.push(nameOf(box));
  return names.filter(Boolean);
}

/** Keep what is unsaved in fields. */
export function keepHalfTyped() {
  const unsaved = fields()
    .filter((field) => field.dataset.unsaved !== undefined && field.value.trim() !== "")
    .map((field) => ({
      path: window.location.pathname,
      where: surroundings(field),
      label: labelOf(field),
      text: field.value,
    }));
  if (unsaved.length > 0) sessionStorage.setItem(KEY, JSON.stringify(unsaved));
  else sessionStorage.removeItem(KEY);
}

/** What was kept for the page that is open; told once. */
export function takeHalfTyped(): HalfTyped[] {
  const kept = JSON.parse(sessionStorage.getItem(KEY) ?? "[]") as HalfTyped[];
  sessionStorage.removeItem(KEY);
  return kept.filter((item) => item.path === window.location.pathname);
}

/** Put a text back into its field, unsaved as it was; whether the field is there. */
export function putBack(item: HalfTyped): boolean {
  const same = (field: Field) =>
    labelOf(field) === item.label && surroundings(field).join() === item.where.join();
  const alike = fields().filter((field) => labelOf(field) === item.label);
  /** Where it is not certain which field it was, none is taken. */
  const field = alike.find(same) ?? (alike.length === 1 ? alike[0] : undefined);
  if (!field) return false;
  for (let box = field.closest("details"); box; box = box.parentElement?.closest("details") ?? null)
    box.open = true;
  /** React hears of a text only where the element's own setter made it. */
  Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), "value")?.set?.call(field, item.text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  field.focus();
  return true;
}
