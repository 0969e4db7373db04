/** A form of files and words as the body of a request. */
export function filesBody(parts: Record<string, string | Blob>) {
  const body = new FormData();
  for (const [name, part] of Object.entries(parts)) body.append(name, part);
  return { body: body as never, bodySerializer: (made: unknown) => made as never };
}
