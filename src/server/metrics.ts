import { Counter, collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { RouteKey } from '@/core/permissions';

/* Figures for whoever runs the installation, in the open text format that monitoring programs read. */

interface Measures {
  readonly registry: Registry;
  readonly requests: Histogram<'route' | 'status'>;
  readonly events: Counter<'what'>;
  readonly jobs: Gauge<'what'>;
}

const shared = globalThis as { __vastStoneMetrics?: Measures };

function measures(): Measures {
  if (shared.__vastStoneMetrics === undefined) {
    const registry = new Registry();
    collectDefaultMetrics({ register: registry, prefix: 'vast_' });
    shared.__vastStoneMetrics = {
      registry,
      requests: new Histogram({
        name: 'vast_request_seconds',
        help: 'Time from the door to the answer',
        labelNames: ['route', 'status'],
        buckets: [0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
        registers: [registry],
      }),
      events: new Counter({ name: 'vast_things_total', help: 'What was done', labelNames: ['what'], registers: [registry] }),
      jobs: new Gauge({ name: 'vast_now', help: 'How many there are now', labelNames: ['what'], registers: [registry] }),
    };
  }
  return shared.__vastStoneMetrics;
}

export const asked = (route: RouteKey, status: number, milliseconds: number): void =>
  measures().requests.observe({ route, status: String(status) }, milliseconds / 1000);

type Counted =
  | 'events stored'
  | 'events set aside'
  | 'sign-ins'
  | 'sign-ins refused'
  | 'seals'
  | 'files checked'
  | 'session looked up'
  | 'mails';
export const counted = (what: Counted, by = 1): void => measures().events.inc({ what }, by);

export const nowThere = (what: 'streams' | 'files in check', count: number): void => measures().jobs.set({ what }, count);

export const metricsText = (): Promise<string> => measures().registry.metrics();
export const metricsType = (): string => measures().registry.contentType;
