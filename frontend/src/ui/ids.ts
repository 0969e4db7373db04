/** A free id made from words. */
export function freeId(words: string, taken: object): string {
  const stem =
    words
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 30) || "part";
  let id = stem;
  for (let number = 2; id in taken; number += 1) id = `${stem}-${number}`;
  return id;
}
