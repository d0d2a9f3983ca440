import { joined } from '../course/sight-words';
import { barometerDoubtPa, type SightedHold, sightOfHold, sightSum } from '../limits';
import { holdTimeForLeak, unnoticedK, unreadBarometerPa } from '../physics/hold-sight';
import { planTest } from '../planning/plan';
import { askQuantity } from '../procedures/questions';
import { rigCheck } from '../procedures/rig-check';
import { bad, fromSi, good, type Result } from '../quantities';
import { type Calculation, curve, type Inputs, type Outcome, orUndefined, show } from './calculation';

/** A hold of gas with no job attached, in the same two figures as every plan's (DOMAIN 3.3). */
function heldFor({ si, optional }: Inputs, seconds: number, step = si('step')): Result<SightedHold> {
  const at = si('pressure');
  const [thermometer, barometer, watch, supply] = [optional('thermometer'), optional('barometer'), optional('let-by'), optional('supply')];
  if (supply !== undefined && supply <= at)
    return bad('supply-below', 'The pressure before the valve must be above that of the hold: below it nothing is let by.', 'supply');
  const unread = optional('drift') ?? unnoticedK(seconds);
  const read = thermometer === undefined || seconds < 600 ? undefined : thermometer + 0.1;
  const airUnread = unreadBarometerPa(seconds);
  const airRead = barometer === undefined ? undefined : barometerDoubtPa(barometer);
  return good({
    contents: { kind: 'gas', litres: (si('volume') * 1000).toFixed(6) },
    seconds,
    unit: 'mbar',
    low: at,
    high: at,
    step,
    factor: 1,
    warms: read !== undefined && read < unread ? { amount: read, read: true } : { amount: unread, read: false },
    presses: airRead !== undefined && airRead < airUnread ? { amount: airRead, read: true } : { amount: airUnread, read: false },
    ...(watch === undefined ? {} : { letBy: { threshold: optional('let-by-threshold') ?? step, seconds: watch, at: at } }),
    ...(supply === undefined ? {} : { supply }),
  });
}

function compute(inputs: Inputs): Result<Outcome> {
  const { si, optional } = inputs;
  const [step, leak, seconds] = [si('step'), si('leak'), si('time')];
  const threshold = optional('threshold') ?? step;
  if (threshold < step)
    return bad('threshold-fine', 'A movement smaller than one step of the gauge cannot be called: give at least a step.', 'threshold');
  const held = heldFor(inputs, seconds);
  if (!held.ok) return held;
  const seen = sightOfHold(threshold, held.value);
  const sureIn = (time: number, finer = 1): number | undefined => {
    const one = heldFor(inputs, time, step / finer);
    return one.ok ? sightOfHold(threshold / finer, one.value).sure : undefined;
  };
  const aloneIn = (time: number): number | undefined => {
    const one = heldFor(inputs, time);
    return one.ok ? sightOfHold(threshold, one.value).alone : undefined;
  };
  const needed = neededFor(leak, sureIn);
  const bare = orUndefined(holdTimeForLeak(si('volume'), threshold, leak));
  const minutes = seconds / 60;
  const longest = Math.max(2 * minutes, needed === undefined ? 0 : (1.4 * needed) / 60);
  const inLitres = (rate: number | undefined) => (rate === undefined ? undefined : fromSi(rate, 'L/h'));
  return good({
    found: [
      ...(needed === undefined
        ? []
        : [{ label: 'Hold needed, to be sure of it', si: needed, quantity: 'time', unit: 'min', main: true } as const]),
      ...(bare === undefined ? [] : [{ label: 'Hold needed, if nothing else moves', si: bare, quantity: 'time', unit: 'min' } as const]),
      ...(seen.sure === undefined
        ? []
        : [{ label: 'Your hold is sure of leaks above', si: seen.sure, quantity: 'flow', unit: 'L/h' } as const]),
      ...(seen.alone === undefined
        ? []
        : [{ label: 'If nothing else moves, it shows leaks from', si: seen.alone, quantity: 'flow', unit: 'L/h' } as const]),
    ],
    said: [
      seen.sure === undefined
        ? { tone: 'stop', text: seen.blind ?? 'This hold is sure of no leak.' }
        : seen.sure > leak
          ? { tone: 'stop', text: `A hold of ${show(seconds, 'min', 3)} may pass a system that leaks ${show(leak, 'L/h', 3)}.` }
          : { tone: 'plain', text: `A hold of ${show(seconds, 'min', 3)} is sure of a leak of ${show(leak, 'L/h', 3)}.` },
      ...(needed === undefined
        ? [
            {
              tone: 'caution',
              text: 'No hold of a day or less is sure of that leak: watch the valve longer or plug it, read a thermometer, or take a finer gauge.',
            } as const,
          ]
        : []),
      { tone: 'plain', text: `Sure as long as ${joined(seen.assumes)}.` },
      ...(seen.outside.length === 0 ? [] : [{ tone: 'plain', text: `Outside it: ${joined(seen.outside)}.` } as const]),
    ],
    working: [
      `What may move unnoticed: ${sightSum(seen, 'mbar')}`,
      `q = V × that sum / (p_ref × t) = ${show(si('volume'), 'L')} over ${show(seconds, 'min')}${seen.sure === undefined ? '' : ` = ${show(seen.sure, 'L/h')}`}, by the worst law where it is over a tenth of the start`,
    ],
    chart: {
      x: { label: 'Hold, min', scale: 'log' },
      y: { label: 'Leak, L/h', scale: 'log' },
      lines: [
        { label: 'Sure', points: curve(1, longest, 'log', (time) => inLitres(sureIn(time * 60))) },
        { label: 'If nothing else moves', points: curve(1, longest, 'log', (time) => inLitres(aloneIn(time * 60))), dashed: true },
      ],
      ...(seen.sure === undefined
        ? {}
        : { mark: { x: minutes, y: fromSi(seen.sure, 'L/h'), label: `${show(seconds, 'min', 3)}: ${show(seen.sure, 'L/h', 3)}` } }),
      level: { y: fromSi(leak, 'L/h'), label: 'Leak to be sure of' },
    },
  });
}

/** The shortest hold, s, in whole minutes to a day, that is sure of a leak. */
function neededFor(leak: number, sureIn: (seconds: number) => number | undefined): number | undefined {
  for (let seconds = 60; seconds <= 86_400; seconds += seconds < 7200 ? 60 : 300)
    if ((sureIn(seconds) ?? Number.POSITIVE_INFINITY) <= leak) return seconds;
  return undefined;
}

/** The hold as a plan of its own, on a closed volume: what its chances are tried on. A watched valve is no part of that. */
function plan({ si, optional }: Inputs) {
  const [step, seconds] = [fromSi(si('step'), 'mbar'), Math.round(si('time'))];
  const text = (value: number): string => String(Number(value.toFixed(6)));
  const thermometer = optional('thermometer');
  const made = planTest({
    procedure: rigCheck.id,
    answers: {
      rig: 'Hold on Bench',
      kind: 'hose',
      pressure: `${text(fromSi(si('pressure'), 'mbar'))} mbar`,
      threshold: `${text(fromSi(optional('threshold') ?? si('step'), 'mbar'))} mbar`,
      inside: `${text(si('volume') * 1000)} L`,
    },
    pipes: '',
    statedVolume: '',
    gauge: {
      id: 'bench',
      name: 'Gauge on Bench',
      kind: 'digital',
      unit: 'mbar',
      readability: text(step),
      rangeLow: '0',
      rangeHigh: text(Math.max(10, 2 * fromSi(si('pressure'), 'mbar'))),
      serial: '',
      calibration: { needed: false },
      simulated: true,
    },
    instruments: rigCheck.example.instruments,
    ...(thermometer === undefined
      ? {}
      : {
          weather: {
            thermometer: {
              id: 'bench-thermometer',
              name: 'Thermometer on Bench',
              kind: 'digital' as const,
              unit: 'C' as const,
              readability: text(thermometer),
              rangeLow: '-40',
              rangeHigh: '90',
              serial: '',
              calibration: { needed: false as const },
              simulated: true,
            },
          },
        }),
    stricter: seconds > 180 ? [{ figure: 'hold-seconds', value: String(seconds), reference: 'as asked on Bench' }] : [],
    houseRules: [],
    on: '2026-01-01',
  });
  return made.ok && seconds >= 180 ? made.value.plan : undefined;
}

export const holdTime: Calculation = {
  id: 'hold-time',
  title: 'Hold time and what it can see',
  about: 'What a hold on gas is sure of, and how long it must last to be sure of a given leak.',
  parameters: [
    askQuantity('volume', 'Gas volume', 'volume', 'L', '60', ['0.001', '1000000']),
    askQuantity('step', 'One step of the gauge', 'pressure', 'psi', '0.1', ['0.00001', '100']),
    askQuantity('threshold', 'Movement that counts', 'pressure', 'psi', '', ['0.00001', '100'], 'Left empty, one step is a movement.', {
      optional: true,
    }),
    askQuantity('pressure', 'Test pressure', 'pressure', 'psi', '3', ['0.001', '10000']),
    askQuantity('time', 'Your hold', 'time', 'min', '15', ['0.5', '1440']),
    askQuantity('leak', 'Leak to be sure of', 'flow', 'L/h', '1', ['0.0001', '100000']),
    askQuantity(
      'drift',
      'The pipe may drift unnoticed by',
      'difference',
      'kelvin',
      '',
      ['0', '5'],
      'Left empty, 0.05 K a minute, at least 0.1 and at most 0.5. More than 5 K nobody fails to notice: read a thermometer.',
      { optional: true },
    ),
    askQuantity(
      'thermometer',
      'Thermometer’s step, where it is read at both ends',
      'difference',
      'kelvin',
      '',
      ['0.001', '5'],
      'Counts from ten minutes on.',
      {
        optional: true,
      },
    ),
    askQuantity(
      'barometer',
      'Barometer’s step, where it is read at both ends',
      'pressure',
      'hPa',
      '',
      ['0.01', '10'],
      'Counts from an hour on.',
      {
        optional: true,
      },
    ),
    askQuantity(
      'let-by',
      'Valve before it watched for',
      'time',
      'min',
      '',
      ['0.1', '1440'],
      'Left empty, it is plugged, capped or parted.',
      { optional: true },
    ),
    askQuantity(
      'let-by-threshold',
      'Rise that counts as let-by',
      'pressure',
      'psi',
      '',
      ['0.00001', '100'],
      'Left empty, one step of the gauge.',
      {
        optional: true,
      },
    ),
    askQuantity(
      'supply',
      'Pressure before that valve, where it is known',
      'pressure',
      'psi',
      '',
      ['0.001', '10000'],
      'Left empty, it is not known.',
      {
        optional: true,
      },
    ),
  ],
  validity: [
    'A gas in a rigid system, settled before it is held.',
    'The chance of a pass is worked out for the hold alone, its valve plugged, from three minutes on.',
  ],
  compute,
  plan,
};
