/** A name for the result of something applied to `inputKey`: SHA-256, in hex, of both. Equal content, equal name. */
export async function resultKey(inputKey: string, content: unknown): Promise<string> {
  return hexDigest(new TextEncoder().encode(`${inputKey}\n${canonical(content)}`));
}

/** SHA-256 in hex. */
export async function hexDigest(bytes: Uint8Array<ArrayBuffer> | ArrayBuffer): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', bytes);
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** JSON with sorted keys and without undefined values. */
function canonical(value: unknown): string {
  return JSON.stringify(value, (_, nested: unknown) =>
    nested && typeof nested === 'object' && !Array.isArray(nested)
      ? Object.fromEntries(Object.entries(nested).sort(([a], [b]) => (a < b ? -1 : 1)))
      : nested,
  );
}
