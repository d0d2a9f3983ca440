'use client';

import { proxy, wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { type HoldPhase, instrumentOf } from '@/core/course';
import { type Decimal, type PressureUnit, unitLabel } from '@/core/quantities';
import { firstWindow, type GaugeLog, type LogMapping, type LogWindow, logEvents, logFault, rowText } from '@/core/record';
import { holdNow, mayStartNow } from '@/core/running';
import { newId, offsetMinutes } from '@/device/clock';
import { Button } from '@/ui/button';
import { button, input, quietButton } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import type { GaugeLogWorker, Peek } from '@/workers/gauge-log';
import type { Inner } from './extra-dialog';
import { Found } from './log-found';
import { guessMapping } from './log-guess';
import { Mapping } from './log-mapping';

type Loaded = { readonly ok: true; readonly log: GaugeLog } | { readonly ok: false; readonly message: string };

/** A logging gauge's own file: columns, unit and zone are asked, everything is looked at first, then it is taken as this hold's readings. */
export function LogFile({ open, close, phase, round }: Inner) {
  const { plan } = open.run;
  const planned = plan.phases.find((one): one is HoldPhase => one.kind === 'hold' && one.id === phase);
  const hold = planned && holdNow(plan, open.judgement, planned);
  const instrument = instrumentOf(plan, hold?.instrument);
  const [file, setFile] = useState<File>();
  const [delimiter, setDelimiter] = useState('');
  const [peek, setPeek] = useState<Peek>();
  const [mapping, setMapping] = useState<LogMapping>();
  const [share, setShare] = useState<number>();
  const [loaded, setLoaded] = useState<Loaded>();
  const [window, setWindow] = useState<LogWindow>();
  const begins = (value: Decimal) => planned !== undefined && mayStartNow(plan, open.judgement, planned, value);
  const worker = useRef<Worker>(undefined);
  const api = useRef<ReturnType<typeof wrap<GaugeLogWorker>>>(undefined);
  const wake = () => {
    worker.current?.terminate();
    worker.current = new Worker(new URL('../../workers/gauge-log.ts', import.meta.url), { type: 'module' });
    api.current = wrap<GaugeLogWorker>(worker.current);
    return api.current;
  };
  useEffect(() => () => worker.current?.terminate(), []);

  const look = async (chosen: File, separator: string) => {
    // What was known of the file before it must not be read into this one.
    setPeek(undefined);
    setMapping(undefined);
    setLoaded(undefined);
    setWindow(undefined);
    const found = await wake().peek(chosen, separator);
    setPeek(found);
    setMapping(guessMapping(found, instrument.unit as PressureUnit, offsetMinutes()));
  };
  const read = async (by: LogMapping) => {
    if (file === undefined || peek === undefined || hold === undefined) return;
    setShare(0);
    setLoaded(undefined);
    const own = wake();
    try {
      const result = await own.read(file, peek.delimiter, peek.firstLine, by, proxy(setShare));
      const fault = result.ok ? logFault(result.value, plan, hold) : result.fault.message;
      setLoaded(result.ok && fault === undefined ? { ok: true, log: result.value } : { ok: false, message: fault ?? '' });
      if (result.ok && fault === undefined) setWindow(firstWindow(result.value, hold, begins));
    } catch {
      setLoaded({ ok: false, message: 'The file could not be read. Export it again as CSV.' });
    } finally {
      setShare(undefined);
    }
  };
  const cancel = () => {
    worker.current?.terminate();
    setShare(undefined);
  };
  const change = (part: Partial<LogMapping>) => {
    if (mapping === undefined) return;
    setMapping({ ...mapping, ...part });
    setLoaded(undefined);
    setWindow(undefined);
  };
  const take = async () => {
    if (loaded?.ok !== true || window === undefined || hold === undefined) return;
    const boot = `log ${newId()}`;
    const from = loaded.log.times[0];
    for (const { at, body } of logEvents(loaded.log, plan, hold, round, window))
      await open.write(body, { at: Math.round(at), mono: Math.round(at - from), boot });
    close();
  };
  if (hold === undefined) return <p>A log file is read into a hold. Open this again when a hold is due.</p>;
  return (
    <div className="space-y-3">
      <input
        type="file"
        accept=".csv,.txt,text/csv,text/plain"
        aria-label="Choose the log file"
        className={input}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          setFile(chosen);
          if (chosen !== undefined) look(chosen, delimiter);
        }}
      />
      {peek !== undefined && mapping !== undefined && file !== undefined && (
        <>
          <Mapping
            peek={peek}
            mapping={mapping}
            change={change}
            delimiter={delimiter}
            separate={(value) => {
              setDelimiter(value);
              look(file, value);
            }}
          />
          {share === undefined ? (
            <button type="button" className={`${loaded?.ok === true ? quietButton : button} min-h-12 w-full`} onClick={() => read(mapping)}>
              Look at the whole file
            </button>
          ) : (
            <div className="flex items-center gap-3">
              <progress className="h-3 flex-1" value={share} max={1} aria-label="File read" />
              <span className="figures w-14 text-right">{Math.round(share * 100)} %</span>
              <Button tone="quiet" size="tall" onClick={cancel}>
                Cancel
              </Button>
            </div>
          )}
        </>
      )}
      {loaded?.ok === false && (
        <Notice tone="stop" role="alert">
          {loaded.message}
        </Notice>
      )}
      {loaded?.ok === true && (
        <Found
          log={loaded.log}
          hold={hold}
          window={window}
          choose={setWindow}
          next={(from) => firstWindow(loaded.log, hold, begins, from)}
        />
      )}
      {loaded?.ok === true && window !== undefined && (
        <Button size="great" className="w-full" disabled={!open.hasPen} onClick={take}>
          Take it as {hold.title.toLowerCase()}: {rowText(loaded.log, window.start)} to {rowText(loaded.log, window.end)}{' '}
          {unitLabel(loaded.log.unit)}
        </Button>
      )}
    </div>
  );
}
