import { readdirSync, readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { SCREENS } from "../src/app/screens";
import { GUIDE, pageAsHtml } from "../src/features/guide/pages";

/** All that the screens say, with single spaces. */
function said(folder: string): string {
  const parts = readdirSync(folder, { withFileTypes: true }).map((item) => {
    const path = `${folder}/${item.name}`;
    if (item.isDirectory()) return said(path);
    return /\.tsx?$/.test(item.name) ? readFileSync(path, "utf-8") : "";
  });
  return parts.join(" ").replace(/\s+/g, " ").toLowerCase();
}

test("every screen has a page, every page is whole, every link and picture leads somewhere", () => {
  const keys = GUIDE.map((page) => page.key);
  for (const [key] of SCREENS) expect(keys).toContain(key);
  for (const page of GUIDE) {
    const html = pageAsHtml(page);
    expect(html, page.key).toContain("<h1>");
    for (const [, to] of html.matchAll(/href="\/guide\/([^"]*)"/g)) expect(keys).toContain(to);
    expect(html.match(/<img/g)?.length ?? 0, page.key).toBe(page.text.match(/!\[/g)?.length ?? 0);
    expect(page.text.length, `${page.key} is short`).toBeLessThan(2_500);
  }
});

test("what the guide quotes stands on the screens", () => {
  const screens = said("src");
  const missing = GUIDE.flatMap((page) =>
    [...page.text.matchAll(/“([^”]+)”/g)]
      .map(([, words]) => words ?? "")
      .filter((words) => !screens.includes(words.toLowerCase().replace(/[.,:;]$/, "")))
      .map((words) => `${page.key}: ${words}`),
  );
  expect(missing).toEqual([]);
});
