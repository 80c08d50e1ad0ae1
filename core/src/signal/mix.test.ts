import { describe, expect, it } from 'vitest';
import { fadedFrom, mixInto } from './mix';

const ones = (length: number) => new Float32Array(length).fill(1);

describe('a placed sound', () => {
  it('is added at its frame, and only what lies in the block', () => {
    const block = ones(4);
    mixInto(block, 100, { frame: 102, samples: ones(10), gain: 0.5 });
    mixInto(block, 100, { frame: 97, samples: ones(4) });
    mixInto(block, 100, { frame: 104, samples: ones(4) });
    expect([...block]).toEqual([2, 1, 1.5, 1.5]);
  });

  it('fades out from a frame on, and has ended after it', () => {
    const { frame, samples } = fadedFrom({ frame: 100, samples: ones(50) }, 110, 4);
    expect(frame).toBe(100);
    expect([...samples]).toEqual([...ones(10), 0.75, 0.5, 0.25, 0]);
  });

  it('fades from its beginning where that is to come, and ends no later than it would', () => {
    expect([...fadedFrom({ frame: 100, samples: ones(50) }, 90, 2).samples]).toEqual([0.5, 0]);
    expect(fadedFrom({ frame: 100, samples: ones(5) }, 103, 64).samples).toHaveLength(5);
  });
});
