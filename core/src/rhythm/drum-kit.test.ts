import { describe, expect, it } from 'vitest';
import { readPassageFile } from '../formats/score/passage-files';
import { DRUM_KIT, drumKey, drumPartOf, isDrumKey } from './drum-kit';

/** A beat as notation programs export it: unpitched notes, each of an instrument whose key is counted from 1. */
const BEAT = `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Drumset</part-name>
<score-instrument id="P1-I37"><instrument-name>Bass Drum</instrument-name></score-instrument>
<score-instrument id="P1-I39"><instrument-name>Snare</instrument-name></score-instrument>
<score-instrument id="P1-I99"><instrument-name>Whistle</instrument-name></score-instrument>
<midi-instrument id="P1-I37"><midi-channel>10</midi-channel><midi-unpitched>37</midi-unpitched></midi-instrument>
<midi-instrument id="P1-I39"><midi-channel>10</midi-channel><midi-unpitched>39</midi-unpitched></midi-instrument>
</score-part></part-list><part id="P1"><measure number="1">
<attributes><divisions>1</divisions><time><beats>3</beats><beat-type>4</beat-type></time><clef><sign>percussion</sign></clef></attributes>
<note><unpitched><display-step>F</display-step><display-octave>4</display-octave></unpitched><duration>1</duration><instrument id="P1-I37"/></note>
<note><unpitched><display-step>C</display-step><display-octave>5</display-octave></unpitched><duration>1</duration><instrument id="P1-I39"/></note>
<note><unpitched><display-step>G</display-step><display-octave>5</display-octave></unpitched><duration>1</duration><instrument id="P1-I99"/></note>
</measure></part></score-partwise>`;

describe('the parts of a kit', () => {
  it('have one key each, and places that tell the most used apart', () => {
    expect(new Set(DRUM_KIT.map(({ midi }) => midi)).size).toBe(DRUM_KIT.length);
    const looks = [36, 38, 37, 42, 44, 46, 41, 43, 45, 47, 48, 50, 49, 51].map((midi) => {
      const part = DRUM_KIT.find((one) => one.midi === midi);
      return `${part?.place.step}${part?.place.octave} ${part?.head}`;
    });
    expect(new Set(looks).size).toBe(looks.length);
  });

  it('are known by their keys in General MIDI, and no other pitch is one', () => {
    expect(drumPartOf({ step: 'C', alter: 0, octave: 2 })?.name).toBe('bass drum');
    expect(drumPartOf({ step: 'F', alter: 1, octave: 2 })?.name).toBe('closed hi-hat');
    expect(drumPartOf({ step: 'C', alter: 0, octave: 5 })).toBeNull();
    expect(drumPartOf(null)).toBeNull();
    expect(isDrumKey(60)).toBe(false);
  });

  it('are told apart in a MusicXML score, which counts keys from one', async () => {
    const { passage } = await readPassageFile('beat.musicxml', new TextEncoder().encode(BEAT), 'beat');
    expect(passage.notes.map(({ pitch }) => drumPartOf(pitch)?.name ?? null)).toEqual(['bass drum', 'snare drum', null]);
    expect(passage.notes[2]?.pitch).toBeNull();
  });
});

it('either key of a bass drum or a snare is the same drum, others are themselves', () => {
  expect([35, 36, 38, 40].map(drumKey)).toEqual([35, 35, 38, 38]);
  // Different drums stay apart, and so do notes that are no drums.
  expect(new Set([36, 38, 42, 44, 46, 49, 57, 51, 59].map(drumKey)).size).toBe(9);
  expect(drumKey(100)).toBe(100);
});
