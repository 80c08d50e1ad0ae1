/** What the command understands. */
export const USAGE = `isochron: times the notes of a recording, reads and writes notation, makes drills, tries
the tempo strategies, backs up and restores

  isochron onsets FILE.wav [--clicks CLICKS.txt] [--instrument KIND]
      prints one onset time in seconds a line
  isochron measure FILE.wav --bpm N --per-beat M --beats B --start S [--clicks CLICKS.txt]
                   [--instrument KIND] [--json]
      measures B beats of M even notes at N beats a minute, the first expected S seconds into the file
  isochron measure FILE.wav --bpm N --start S --score FILE.mid|.musicxml|.mxl|.abc|.txt [--clicks CLICKS.txt]
                   [--instrument KIND] [--json]
      measures what the score says; knowing its pitches, it hears slurs and soft notes better
  isochron assess ONSETS.csv --bpm N (--per-beat M --beats B | --score FILE) [--goal N] [--strategy NAME]
      [--tolerance NAME] [--ease EASE,…] [--labels NOTES.csv] [--json]
      what repetitions of M even notes a beat, or of a score, come to, from a CSV file with the columns
      repetition,timeS: measures, verdicts, what they say together with its tests, and the decisions that follow;
      NOTES.csv has the columns note,label; EASE is easy, working, tense or pain, for all or one for each in turn
  isochron convert IN OUT [--part NAME]
      reads notation and writes it, by the endings: .musicxml, .mxl, .mid, .abc, .txt (docs/text-notation.md)
  isochron passage IN [--part NAME] [--parts] [--json]
      the notes of a file: places and lengths in beats from the first downbeat, repeats written out;
      with --parts what can be taken of it (parts, tracks, voices, tunes), each with its number of notes
  isochron methods [--json]
      every practice method, its parameters and their defaults
  isochron drills IN --method ID [--method ID] [--set [ID.]NAME=VALUE ...] [--json]
      what one method, or several together, make of a file
  isochron strategies [--learners 200] [--weeks 8] [--seed 1] [--only ID,ID] [--json]
      every tempo strategy on simulated learners over weeks: what was clean, how far it came, which rules were broken
  isochron report ID --json|--csv
      what is known of a take (its notes) or of a passage (its days), by the id in its address
  isochron backup FILE.zip
      writes everything that is stored into one file
  isochron restore FILE.zip
      puts such a file in the place of everything; what was there before is kept aside
  isochron recover
      puts the newest good copy in the place of a damaged database, which is kept aside

CLICKS.txt holds one click time in seconds a line; those clicks are never taken for notes.
Backups and reports are of the folder that ISOCHRON_DATA names (otherwise: data).
KIND is struck, plucked, bowed, blown, brass, drum or voice.`;

/** Something the user can put right, said in a sentence. Exit code 2 for a wrong call, 1 for a wrong file. */
export class UsageError extends Error {
  constructor(
    message: string,
    readonly exitCode: 1 | 2,
  ) {
    super(message);
  }
}
