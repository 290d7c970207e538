import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** A name for the result of something applied to `inputKey`: SHA-256, in hex, of both. Equal content, equal name. */
export async function resultKey(inputKey: string, content: unknown): Promise<string> {
  return hexDigest(new TextEncoder().encode(`${inputKey}\n${canonical(content)}`));
}

/** SHA-256 in hex; computed here where the browser computes none, as on pages that came without encryption. */
export async function hexDigest(bytes: Uint8Array<ArrayBuffer> | ArrayBuffer): Promise<string> {
  const digest: Uint8Array =
    (crypto.subtle as SubtleCrypto | undefined) === undefined
      ? sha256(new Uint8Array(bytes))
      : new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return bytesToHex(digest);
}

/** A short name of some content, at once: SHA-256, in hex. Equal content, equal name. */
export const hashOf = (content: unknown): string => bytesToHex(sha256(new TextEncoder().encode(canonical(content))));

/** JSON with sorted keys and without undefined values. */
function canonical(value: unknown): string {
  return JSON.stringify(value, (_, nested: unknown) =>
    nested && typeof nested === 'object' && !Array.isArray(nested)
      ? Object.fromEntries(Object.entries(nested).sort(([a], [b]) => (a < b ? -1 : 1)))
      : nested,
  );
}
