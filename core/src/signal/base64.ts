const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const VALUES = new Uint8Array(128);
for (let value = 0; value < LETTERS.length; value += 1) VALUES[LETTERS.charCodeAt(value)] = value;

/** The bytes of a base64 text (RFC 4648), in plain JavaScript: core knows neither browser nor Node. */
export const fromBase64 = (padded: string): Uint8Array<ArrayBuffer> => {
  const text = padded.replace(/=+$/, '');
  const bytes = new Uint8Array(Math.floor((text.length * 3) / 4));
  let bits = 0;
  let held = 0;
  let at = 0;
  for (let n = 0; n < text.length; n += 1) {
    bits = (bits << 6) | (VALUES[text.charCodeAt(n)] as number);
    held += 6;
    if (held < 8) continue;
    held -= 8;
    bytes[at] = (bits >> held) & 255;
    at += 1;
    bits &= (1 << held) - 1;
  }
  return bytes;
};
