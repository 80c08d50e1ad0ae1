/** What the command understands. */
export const USAGE = `isochron: times the notes of a recording, backs up and restores what is stored

  isochron onsets FILE.wav [--clicks CLICKS.txt] [--instrument KIND]
      prints one onset time in seconds a line
  isochron measure FILE.wav --bpm N --per-beat M --beats B --start S [--clicks CLICKS.txt]
                   [--instrument KIND] [--json]
      measures B beats of M even notes at N beats a minute, the first expected S seconds into the file
  isochron assess ONSETS.csv --bpm N --per-beat M --beats B [--goal N] [--school NAME] [--tolerance NAME] [--json]
      what repetitions of M even notes a beat come to, from a CSV file with the columns repetition,timeS: measures,
      verdicts, what they say together, and the decisions that follow
  isochron backup FILE.zip
      writes everything that is stored into one file
  isochron restore FILE.zip
      puts such a file in the place of everything; what was there before is kept aside

CLICKS.txt holds one click time in seconds a line; those clicks are never taken for notes.
Backups are of the folder that ISOCHRON_DATA names (otherwise: data).
KIND is struck, plucked, bowed, blown, brass, drum or voice.`;

/** Something the user can put right, said in a sentence. Exit code 2 for a wrong call, 1 for a wrong file. */
export class Trouble extends Error {
  constructor(
    message: string,
    readonly exitCode: 1 | 2,
  ) {
    super(message);
  }
}
