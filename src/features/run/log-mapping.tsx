import { type PressureUnit, pressureUnits, type TemperatureUnit, temperatureUnits, unitLabel } from '@/core/quantities';
import { type LogMapping, type TimeOrder, timeOrders } from '@/core/record';
import { Choice, type ChoiceProps, Dropdown } from '@/ui/choice';
import type { Peek } from '@/workers/gauge-log';

const orderWords: Record<TimeOrder, string> = {
  ymd: 'year first',
  dmy: 'day first',
  mdy: 'month first',
  seconds: 'seconds since its start',
};
const separators: readonly (readonly [value: string, label: string])[] = [
  ['', 'found by itself'],
  [',', 'comma'],
  [';', 'semicolon'],
  ['\t', 'tab'],
  ['|', 'bar'],
];

/** An id holds no spaces: it would name two things. */
const idOf = (label: string): string => `log-${label.replaceAll(' ', '-')}`;

/** A dozen of these stand close together: each a list, the long one searched. */
const Picked = (props: ChoiceProps) => (props.options.length > 12 ? <Choice {...props} /> : <Dropdown {...props} />);

/** How the file is written: found by itself as far as it can be, each part to be changed, with its first rows below. */
export function Mapping({
  peek,
  mapping,
  change,
  delimiter,
  separate,
}: {
  readonly peek: Peek;
  readonly mapping: LogMapping;
  readonly change: (part: Partial<LogMapping>) => void;
  readonly delimiter: string;
  readonly separate: (delimiter: string) => void;
}) {
  const columns = peek.header.map((name, index) => ({ value: index, label: name.trim() === '' ? `Column ${index + 1}` : name }));
  const pick = (
    label: string,
    value: number | string,
    options: readonly { readonly value: number | string; readonly label: string }[],
    set: (value: string) => void,
  ) => (
    <div className="text-sm">
      <span id={idOf(label)}>{label}</span>
      <Picked
        className="mt-0.5 text-base"
        labelledBy={idOf(label)}
        value={String(value)}
        change={set}
        options={options.map((one) => ({ ...one, value: String(one.value) }))}
      />
    </div>
  );
  const zones = Array.from({ length: 53 }, (_, index) => (index - 24) * 30);
  return (
    <fieldset className="grid grid-cols-2 gap-2">
      <legend className="sr-only">How the file is written</legend>
      {pick(
        'Separator',
        delimiter,
        separators.map(([value, label]) => ({ value, label })),
        separate,
      )}
      {pick('Figures in', mapping.value, columns, (value) => change({ value: Number(value) }))}
      {pick('Time in', mapping.time, columns, (value) => change({ time: Number(value) }))}
      {pick('Date in', mapping.date ?? -1, [{ value: -1, label: 'the same column' }, ...columns], (value) =>
        change(Number(value) < 0 ? { date: undefined } : { date: Number(value) }),
      )}
      {pick(
        'Written',
        mapping.order,
        timeOrders.map((value) => ({ value, label: orderWords[value] })),
        (value) => change({ order: value as TimeOrder }),
      )}
      {pick(
        'Unit',
        mapping.unit,
        pressureUnits.map((value) => ({ value, label: unitLabel(value) })),
        (value) => change({ unit: value as PressureUnit }),
      )}
      {pick('Pipe temperature in', mapping.pipe?.column ?? -1, [{ value: -1, label: 'not in this file' }, ...columns], (value) =>
        change({ pipe: Number(value) < 0 ? undefined : { column: Number(value), unit: mapping.pipe?.unit ?? 'C' } }),
      )}
      {mapping.pipe !== undefined &&
        pick(
          'in',
          mapping.pipe.unit,
          temperatureUnits.map((value) => ({ value, label: unitLabel(value) })),
          (value) => change({ pipe: mapping.pipe && { ...mapping.pipe, unit: value as TemperatureUnit } }),
        )}
      {pick('Barometer in', mapping.air?.column ?? -1, [{ value: -1, label: 'not in this file' }, ...columns], (value) =>
        change({ air: Number(value) < 0 ? undefined : { column: Number(value), unit: mapping.air?.unit ?? 'hPa' } }),
      )}
      {pick(
        'Clock of the file',
        mapping.offsetMinutes,
        zones.map((value) => ({ value, label: zoneText(value) })),
        (value) => change({ offsetMinutes: Number(value) }),
      )}
      {pick(
        'An hour that is missing',
        mapping.lostHour,
        [
          { value: 'gap', label: 'is a gap' },
          { value: 'clock', label: 'is daylight saving' },
        ],
        (value) => change({ lostHour: value as LogMapping['lostHour'] }),
      )}
      <div className="col-span-2 overflow-x-auto">
        <table className="figures w-full text-xs">
          <thead>
            <tr>
              {columns.map(({ value, label }) => (
                <th
                  key={value}
                  className={`px-1 text-left ${value === mapping.value || value === mapping.time ? 'font-semibold' : 'font-normal text-quiet'}`}
                >
                  {label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {peek.rows.slice(0, 4).map((cells, index) => (
              <tr key={`${index.toString()}${cells[0]}`}>
                {columns.map(({ value }) => (
                  <td key={value} className="px-1">
                    {cells[value]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </fieldset>
  );
}

const zoneText = (minutes: number): string =>
  `UTC${minutes < 0 ? '−' : '+'}${String(Math.floor(Math.abs(minutes) / 60)).padStart(2, '0')}:${String(Math.abs(minutes) % 60).padStart(2, '0')}`;
