import { readFileSync } from 'node:fs';
import path from 'node:path';
import { OrdleError, recipeJsonSchema } from '@ordle/core';
import { clean } from './commands/clean';
import { exportFiles } from './commands/export';
import { findings } from './commands/findings';
import { followFile } from './commands/follow';
import { inspect } from './commands/inspect';
import { merge } from './commands/merge';
import { readings } from './commands/readings';
import { separate } from './commands/separate';
import { suggest } from './commands/suggest';
import { tempo } from './commands/tempo';
import { EXIT_UNUSABLE, type Surroundings } from './surroundings';

const HELP = `ordle: clean recorded MIDI from the command line

  ordle inspect FILE... [--json]                             say what is in a file
  ordle clean FILE... [--suggest] [--recipe RECIPE.json] --out DIR [--list -] [--resume] [--overwrite]
                                                             apply a recipe to every part of each file, or what is
                                                             suggested for each; --list - reads names from standard
                                                             input, --resume leaves out what is done
  ordle merge FILE FILE... --mode layer [--doubles both|louder|longer|first] [--within MS] --out FILE
  ordle merge FILE FILE... --mode join --out FILE
  ordle merge FILE FILE... --mode tightest [--grid 1/16] [--penalty MS] [--missing MS] --out FILE
                                                             several files as one: together, end to end, or bar by bar
                                                             the tightest ([--json] [--overwrite])
  ordle separate FILE... --by channel|pitch:60|drum|voice|hand --out DIR [--json] [--overwrite]
                                                             each file as several, every note in exactly one
  ordle tempo FILE... [--steady] [--json] [--write OUT.mid]  the beats of a performance, from its note starts
  ordle readings FILE... [--grid 1/16] [--json]              what can be measured of each part
  ordle findings FILE... [--json] [--mend OUT.mid]           what is probably wrong, and the file mended
  ordle suggest FILE... [--json] [--apply OUT.mid] [--recipe OUT.json]
                                                             what would clean it up and why, and the file cleaned so
  ordle follow PLAYED.mid --score SCORE.musicxml|SCORE.mid [--json] [--apply OUT.mid] [--strength 100] [--pitches]
                                                             a performance beside its score: what is right, wrong,
                                                             missing, extra; and each note where it is written
  ordle export FILE... --to mid|musicxml|mxl|csv|wav|report|ordle|recipe|groove[,...] --out FILE|DIR
               [--parts NAME,...] [--bars FROM-TO | --each section|block] [--recipe RECIPE.json] [--as played|cleaned]
               [--names "{session} - {part}"] [--json] [--overwrite]
               mid: [--format 0|1] [--division N] [--one-file-a-part] [--no-programs] [--no-names] [--overlaps keep|cut]
               musicxml, mxl: [--staves 1|2] [--finest 1/16]     csv: [--controllers] [--tempo]
               wav: [--rate 44100|48000|96000] [--bits 16|24] [--level peak|heard] [--tail ring|bar] [--stems]
               ordle: [--history]     groove: [--grid 1/16] [--beats 4]
                                                             the parts as other programs take them; several files go
                                                             into a zip, or into a folder that is named
  ordle recipes --schema                                     print the JSON Schema of recipes
  ordle help                                                 this text

Many files are cleaned in parallel: a line a file and a summary on standard output, progress and bad files on standard error.
Exit code 0 when all went well, 1 when some files of several failed (nothing is written for those), 2 when nothing could be used.
`;

/** Runs the command line; `directory` is where relative paths start. Returns the exit code. */
export async function main(
  args: readonly string[],
  directory: string,
  output: Partial<Surroundings> = {},
): Promise<number> {
  const surroundings: Surroundings = {
    directory,
    print: (line) => process.stdout.write(`${line}\n`),
    complain: (line) => process.stderr.write(`${line}\n`),
    input: () => readFileSync(0, 'utf8'),
    cleanWorker: null,
    soundBank: path.resolve('app/public/sounds/general-midi.sf2'),
    ...output,
  };
  const [command, ...rest] = args;
  try {
    if (command === 'inspect') return inspect(rest, surroundings);
    if (command === 'clean') return await clean(rest, surroundings);
    if (command === 'merge') return merge(rest, surroundings);
    if (command === 'separate') return separate(rest, surroundings);
    if (command === 'tempo') return tempo(rest, surroundings);
    if (command === 'readings') return readings(rest, surroundings);
    if (command === 'findings') return findings(rest, surroundings);
    if (command === 'suggest') return suggest(rest, surroundings);
    if (command === 'follow') return followFile(rest, surroundings);
    if (command === 'export') return await exportFiles(rest, surroundings);
    if (command === 'recipes') {
      if (rest.length !== 1 || rest[0] !== '--schema')
        throw new OrdleError('usage', 'Write: ordle recipes --schema');
      surroundings.print(JSON.stringify(recipeJsonSchema(), null, 2));
      return 0;
    }
    if (command === undefined || command === 'help' || command === '--help' || command === '-h') {
      surroundings.print(HELP.trimEnd());
      return 0;
    }
    surroundings.complain(
      `"${command}" is not a command. Known are: inspect, clean, merge, separate, tempo, readings, findings, suggest, follow, export, recipes, help.`,
    );
  } catch (error) {
    if (!(error instanceof OrdleError)) throw error;
    surroundings.complain(error.message);
  }
  return EXIT_UNUSABLE;
}
