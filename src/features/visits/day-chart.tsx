'use client';

import { scaleBand, scaleTime } from 'd3-scale';
import { alarmsOf, type Day, type DayTest } from '@/core/planning';
import { useSize } from '@/ui/use-size';
import { hourText } from '@/ui/when';

const left = 24;
const top = 34;
const rowHeight = 58;

/** A row for every test: hands busy filled, waiting open, an alarm where a hold is due; and a row that shows when hands are free. */
export function DayChart({ day, tests, startAt }: { readonly day: Day; readonly tests: readonly DayTest[]; readonly startAt: number }) {
  const [box, { width }] = useSize();
  const height = top + rowHeight * tests.length + 8;
  const at = (minute: number) => startAt + minute * 60_000;
  const x = scaleTime([at(0), at(Math.max(10, day.minutes))], [left, Math.max(300, width) - 24]);
  const row = scaleBand(
    tests.map(({ id }) => id),
    [top, top + rowHeight * tests.length],
  ).paddingInner(0.12);
  const several = new Set(day.tasks.map(({ person }) => person)).size > 1;
  const alarms = alarmsOf(day);
  return (
    <div ref={box} className="mt-3 w-full overflow-x-auto">
      <svg
        width={Math.max(300, width)}
        height={height}
        role="img"
        aria-label={`The day: ${day.tasks.map(({ task, startMinute, endMinute }) => `${task}, minute ${startMinute} to ${endMinute}`).join('; ')}`}
        className="block select-none"
      >
        {x.ticks(Math.max(3, Math.floor(width / 90))).map((tick) => (
          <g key={tick.getTime()}>
            <line x1={x(tick)} x2={x(tick)} y1={top - 8} y2={height} stroke="var(--line)" strokeWidth={0.6} />
            <text
              x={x(tick)}
              y={16}
              textAnchor={x(tick) < 30 ? 'start' : x(tick) > width - 30 ? 'end' : 'middle'}
              className="figures fill-quiet text-[12px]"
            >
              {hourText(tick.getTime())}
            </text>
          </g>
        ))}
        {tests.map(({ id, title }) => {
          const y = row(id) ?? top;
          const tall = row.bandwidth();
          return (
            <g key={id}>
              <rect x={left} y={y} width={x.range()[1] - left} height={tall} fill="var(--ink)" opacity={0.03} />
              <text x={left + 6} y={y + 15} className="fill-ink text-[13px] font-semibold">
                {title}
              </text>
              {day.tasks
                .filter(({ test }) => test === id)
                .map(({ task, startMinute, freeMinute, endMinute, person, supply }) => (
                  <g key={task}>
                    <title>{`${task}${supply === undefined ? '' : `, ${supply.of} ${supply.state}`}`}</title>
                    <rect
                      x={x(at(startMinute))}
                      y={y + 21}
                      width={Math.max(2, x(at(freeMinute)) - x(at(startMinute)))}
                      height={tall - 26}
                      fill={person === 0 ? 'var(--action)' : 'var(--quiet)'}
                    />
                    {endMinute > freeMinute && (
                      <rect
                        x={x(at(freeMinute))}
                        y={y + 24}
                        width={Math.max(1, x(at(endMinute)) - x(at(freeMinute)))}
                        height={tall - 32}
                        fill="none"
                        stroke={person === 0 ? 'var(--action)' : 'var(--quiet)'}
                        strokeWidth={2}
                      />
                    )}
                  </g>
                ))}
            </g>
          );
        })}
        {alarms.map(({ minute, test, task }) => {
          const y = (row(test) ?? top) + 21;
          return (
            <g key={test + task}>
              <path
                d={`M${x(at(minute))} ${top - 8}V${y + row.bandwidth() - 26}`}
                stroke="var(--caution)"
                strokeWidth={1.5}
                strokeDasharray="3 3"
              />
              <path d={`M${x(at(minute)) - 6} ${top - 14}h12l-6 9z`} fill="var(--caution)" />
            </g>
          );
        })}
      </svg>
      <p className="text-sm text-quiet">
        Filled: hands busy{several ? ' (green the first person, grey another)' : ''}. Open: waiting. Marked: an alarm sounds.
      </p>
    </div>
  );
}
