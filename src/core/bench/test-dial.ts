import { testDialFlow } from '../physics/test-dial';
import { askQuantity } from '../procedures/questions';
import { fromSi, good, type Result } from '../quantities';
import { type Calculation, curve, type Inputs, type Outcome, orUndefined, show } from './calculation';

function compute({ si }: Inputs): Result<Outcome> {
  const [dialM3, turns, seconds, part] = [si('dial'), si('turns'), si('time'), si('part')];
  const flow = testDialFlow(dialM3, turns, seconds);
  if (!flow.ok) return flow;
  const visible = testDialFlow(dialM3, part, seconds);
  if (!visible.ok) return visible;
  const minutes = seconds / 60;
  const seenIn = (time: number) => {
    const smallest = orUndefined(testDialFlow(dialM3, part, time * 60));
    return smallest === undefined ? undefined : fromSi(smallest, 'L/h');
  };
  return good({
    found: [
      { label: 'Leak', si: flow.value, quantity: 'flow', unit: 'ft3/h', main: true },
      { label: 'Smallest that would show', si: visible.value, quantity: 'flow', unit: 'ft3/h' },
    ],
    said: turns < part ? [{ tone: 'caution', text: 'Less than can be read on this dial: watch longer before you call it still.' }] : [],
    working: [
      `q = dial × turns / time = ${show(dialM3, 'ft3')} × ${turns} / ${show(seconds, 'min')} = ${show(flow.value, 'ft3/h')} = ${show(flow.value, 'L/h')}`,
    ],
    chart: {
      x: { label: 'Watched for, min', scale: 'log' },
      y: { label: 'Smallest leak that shows, L/h', scale: 'log' },
      lines: [{ label: 'Smallest readable part of a turn', points: curve(Math.max(0.1, minutes / 10), minutes * 10, 'log', seenIn) }],
      mark: { x: minutes, y: fromSi(visible.value, 'L/h'), label: show(visible.value, 'L/h', 3) },
      level: flow.value > 0 ? { y: fromSi(flow.value, 'L/h'), label: 'What was read' } : undefined,
    },
  });
}

export const testDial: Calculation = {
  id: 'test-dial',
  title: 'Test dial of a meter',
  about: 'What passes a meter, from its smallest dial.',
  parameters: [
    askQuantity('dial', 'One turn of the dial', 'volume', 'ft3', '1/2', ['0.0001', '100']),
    askQuantity('turns', 'Turned by', 'turns', 'turn', '0.02', ['0', '1000'], 'As part of a turn.'),
    askQuantity('time', 'Watched for', 'time', 'min', '10', ['0.1', '10000']),
    askQuantity('part', 'Smallest part you can read', 'turns', 'turn', '0.01', ['0.0001', '1']),
  ],
  validity: ['Prove first that the meter registers: a stuck meter looks tight.', 'All outlets shut, the inlet stop open.'],
  compute,
};
