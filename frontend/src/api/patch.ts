type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * What leads from one document to another: a JSON merge patch (RFC 7396) in which what is gone is undefined, and what
 * became empty is null; `asSent` makes both null.
 */
export function mergePatch(before: Json, after: Json): Json {
  const patch: Json = {};
  for (const key of Object.keys(before)) if (!(key in after)) patch[key] = undefined;
  for (const [key, value] of Object.entries(after)) {
    const old = before[key];
    if (isObject(value) && isObject(old)) {
      const inner = mergePatch(old, value);
      if (Object.keys(inner).length > 0) patch[key] = inner;
    } else if (JSON.stringify(value) !== JSON.stringify(old)) {
      patch[key] = value ?? null;
    }
  }
  return patch;
}

/** The same as the server takes it. */
export const asSent = (patch: Json): Json =>
  JSON.parse(JSON.stringify(patch, (_key, value) => value ?? null));

/** Apply what `mergePatch` gave; the target is left as it is. */
export function applyPatch(target: unknown, patch: unknown): unknown {
  if (!isObject(patch)) return patch;
  const result: Json = isObject(target) ? { ...target } : {};
  for (const [key, value] of Object.entries(patch)) {
    if (value === undefined) delete result[key];
    else if (value === null) result[key] = null;
    else result[key] = applyPatch(result[key], value);
  }
  return result;
}
