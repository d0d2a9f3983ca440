import { bad, good, type Problem, type Result } from '../quantities';

/**
 * Which outlets belong to which pipe (DOMAIN 5.14). In a trial air is let into one opening, or a diverter is turned to it,
 * at a lower pressure each time; the outlets that answer hang on the same line.
 */
export interface Trial {
  /** Where air was let in, or what the diverter was turned to. */
  readonly at: string;
  readonly answered: readonly string[];
}

/** Reads a trial as people note it: `Skimmer 1: Return 1, Return 2`; `Main drain: nothing`. */
export function parseTrial(text: string): Result<Trial> {
  const match = /^([^:]+):(.*)$/.exec(text.trim());
  const example = 'Write where the air went in and what answered: Skimmer 1: Return 1, Return 2.';
  if (match === null) return bad('trial-line', `“${text.trim()}” is not a trial. ${example}`);
  const at = match[1].trim();
  const answered = match[2]
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '' && one.toLowerCase() !== 'nothing');
  if (at === '') return bad('trial-line', `“${text.trim()}” names no opening before the colon. ${example}`);
  return good({ at, answered });
}

/** Trials, a line each; every fault with its line number. */
export function parseTrials(text: string): { readonly trials: readonly Trial[]; readonly problems: readonly Problem[] } {
  const trials: Trial[] = [];
  const problems: Problem[] = [];
  for (const [index, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    const trial = parseTrial(line);
    if (trial.ok) trials.push(trial.value);
    else problems.push({ ...trial.problem, message: `Line ${index + 1}: ${trial.problem.message}` });
  }
  return { trials, problems };
}

/** Outlets that hang together, each group in the order in which its outlets were first named. Names differ by more than case. */
export function lineGroups(trials: readonly Trial[]): readonly (readonly string[])[] {
  const groups: string[][] = [];
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  for (const { at, answered } of trials) {
    const named = [at, ...answered];
    const touched = groups.filter((group) => group.some((one) => named.some((name) => same(one, name))));
    const joined = touched.flat();
    for (const name of named) if (!joined.some((one) => same(one, name))) joined.push(name);
    if (touched.length === 0) groups.push(joined);
    else {
      // The first group that it touches takes the others in.
      groups[groups.indexOf(touched[0])] = joined;
      for (const other of touched.slice(1)) groups.splice(groups.indexOf(other), 1);
    }
  }
  return groups;
}
