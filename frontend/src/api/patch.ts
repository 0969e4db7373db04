type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** The JSON merge patch (RFC 7396) that leads from one document to another. */
export function mergePatch(before: Json, after: Json): Json {
  const patch: Json = {};
  for (const key of Object.keys(before)) if (!(key in after)) patch[key] = null;
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

/** Apply a JSON merge patch; the target is left as it is. */
export function applyPatch(target: unknown, patch: unknown): unknown {
  if (!isObject(patch)) return patch;
  const result: Json = isObject(target) ? { ...target } : {};
  for (const [key, value] of Object.entries(patch)) {
    if (value === null) result[key] = null;
    else result[key] = applyPatch(result[key], value);
  }
  return result;
}
