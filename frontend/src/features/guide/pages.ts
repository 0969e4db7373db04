import { marked, type Tokens } from "marked";

/** A page of the guide: where it is, its title, and its text as Markdown. */
export interface GuidePage {
  key: string;
  title: string;
  text: string;
}

const TEXTS = import.meta.glob<string>("../../../../docs/guide/*.md", {
  eager: true,
  query: "?raw",
  import: "default",
});
const PICTURES = import.meta.glob<string>("../../../../docs/screenshots/*.png", {
  eager: true,
  query: "?url",
  import: "default",
});

/** In the order of the work; the walks last. */
const ORDER = [
  "begin",
  "needs",
  "panel",
  "gear",
  "feed",
  "checks",
  "outage",
  "runbook",
  "log",
  "practise",
  "compare",
  "walk-homeowner",
  "walk-electrician",
  "walk-flat",
];

const keyOf = (path: string) => path.replace(/^.*\//, "").replace(/\.md$/, "");

export const GUIDE: readonly GuidePage[] = Object.entries(TEXTS)
  .map(([path, text]) => ({
    key: keyOf(path),
    title: /^# (.+)$/m.exec(text)?.[1] ?? keyOf(path),
    text,
  }))
  .sort((one, other) => ORDER.indexOf(one.key) - ORDER.indexOf(other.key));

/** A page as HTML: its links lead to pages of the guide, its pictures are those that ship with the app. */
export function pageAsHtml(page: GuidePage): string {
  const renderer = new marked.Renderer();
  renderer.link = ({ href, tokens }: Tokens.Link) =>
    `<a class="underline" href="/guide/${keyOf(href)}">${renderer.parser.parseInline(tokens)}</a>`;
  renderer.image = ({ href, text }: Tokens.Image) => {
    const name = href.replace(/^.*\//, "");
    const found = Object.entries(PICTURES).find(([path]) => path.endsWith(`/${name}`));
    return found ? `<img src="${found[1]}" alt="The screen ${text}, of the demo house" loading="lazy">` : "";
  };
  return marked.parse(page.text, { renderer, async: false });
}
