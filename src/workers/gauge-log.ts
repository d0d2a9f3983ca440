import { expose, transfer } from 'comlink';
import Papa from 'papaparse';
import { type GaugeLog, GaugeLogReader, type LogFault, type LogMapping } from '@/core/record';

/** Rows between two reports of how far a file has been read. */
const reportEvery = 20_000;

export interface Peek {
  readonly delimiter: string;
  readonly header: readonly string[];
  /** Rows after the header. */
  readonly rows: readonly (readonly string[])[];
  /** Line of the first row of figures, counted from 1. */
  readonly firstLine: number;
}

const looksLikeFigures = (cells: readonly string[]): boolean => cells.some((cell) => /\d{1,2}:\d{2}|^\s*[+-]?\d/.test(cell));

/** The beginning of a file: its separator, its header, and a few rows. */
function peek(text: string, delimiter: string): Peek {
  const { data, meta } = Papa.parse<string[]>(text, { delimiter, skipEmptyLines: 'greedy', preview: 40 });
  // A header may stand below lines about the gauge: it is the last line without figures before them.
  const first = Math.max(
    0,
    data.findIndex(
      (cells, index) => cells.length > 1 && looksLikeFigures(cells) && (data[index + 1] === undefined || looksLikeFigures(data[index + 1])),
    ),
  );
  const header = first === 0 ? data[0].map((_, index) => `Column ${index + 1}`) : data[first - 1];
  return { delimiter: meta.delimiter, header, rows: data.slice(first, first + 6), firstLine: first + 1 };
}

const api = {
  async peek(file: Blob, delimiter: string): Promise<Peek> {
    return peek((await file.slice(0, 64 * 1024).text()).replace(/^\uFEFF/, ''), delimiter);
  },
  /** Streams a file; `report` is told the share that was read. Ending the worker cancels it. */
  read(
    file: File,
    delimiter: string,
    firstLine: number,
    mapping: LogMapping,
    report: (share: number) => void,
  ): Promise<{ readonly ok: true; readonly value: GaugeLog } | { readonly ok: false; readonly fault: LogFault }> {
    const reader = new GaugeLogReader(mapping);
    let line = 0;
    return new Promise((resolve, reject) => {
      Papa.parse<string[]>(file, {
        delimiter,
        skipEmptyLines: 'greedy',
        chunk: ({ data, meta }) => {
          for (const cells of data) {
            line += 1;
            if (line >= firstLine) reader.take(cells, line);
            if (line % reportEvery === 0) report(Math.min(1, meta.cursor / Math.max(1, file.size)));
          }
        },
        complete: () => {
          const result = reader.finish();
          resolve(result.ok ? transfer(result, [result.value.times.buffer, result.value.values.buffer]) : result);
        },
        error: reject,
      });
    });
  },
};
export type GaugeLogWorker = typeof api;
expose(api);
