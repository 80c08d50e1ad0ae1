const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** The bytes of a base64 text (RFC 4648), in plain JavaScript: core knows neither browser nor Node. */
export const fromBase64 = (padded: string): Uint8Array<ArrayBuffer> => {
  const text = padded.replace(/=+$/, '');
  const bytes = new Uint8Array(Math.floor((text.length * 3) / 4));
  let bits = 0;
  let held = 0;
  let at = 0;
  for (const letter of text) {
    bits = (bits << 6) | LETTERS.indexOf(letter);
    held += 6;
    if (held < 8) continue;
    held -= 8;
    bytes[at] = (bits >> held) & 255;
    at += 1;
    bits &= (1 << held) - 1;
  }
  return bytes;
};
