/**
 * Samples between −1 and 1 of telephone codings, one for each byte. Source: ITU-T G.711 (1988), tables 1a to 2b: a sign, three bits of
 * segment and four of step, all bits turned over for µ-law and every second one for A-law.
 */
const table = (sampleOf: (byte: number) => number): Float32Array =>
  Float32Array.from({ length: 256 }, (_, byte) => sampleOf(byte));

export const MU_LAW_SAMPLES = table((byte) => {
  const bits = ~byte & 0xff;
  const magnitude = ((((bits & 0x0f) << 3) + 0x84) << ((bits >> 4) & 7)) - 0x84;
  return (bits & 0x80 ? -magnitude : magnitude) / 32_768;
});

export const A_LAW_SAMPLES = table((byte) => {
  const bits = byte ^ 0x55;
  const [segment, step] = [(bits >> 4) & 7, (bits & 0x0f) << 4];
  const magnitude = segment === 0 ? step + 8 : (step + 0x108) << (segment - 1);
  return (bits & 0x80 ? magnitude : -magnitude) / 32_768;
});
