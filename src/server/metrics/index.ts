import { AggregatorRegistry, collectDefaultMetrics, Counter, Histogram, Registry } from 'prom-client';

/** Which of our processes counts; a label of everything that it tells. */
export type ProcessName = 'listener' | 'studio' | 'jobs';

function made() {
  const registry = new Registry();
  const registers = [registry];
  return {
    registry,
    answers: new Counter({
      name: 'heathland_answers_total',
      help: 'Answers given, by who asked (recipient, studio) and by the hundreds of their status',
      labelNames: ['door', 'status'],
      registers,
    }),
    seconds: new Histogram({
      name: 'heathland_studio_answer_seconds',
      help: 'Seconds until the studio had answered',
      buckets: [0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10],
      registers,
    }),
    faults: new Counter({
      name: 'heathland_faults_total',
      help: 'Errors that nobody foresaw, by their code; each is in the log with its frames',
      labelNames: ['code'],
      registers,
    }),
    jobs: new Counter({
      name: 'heathland_jobs_total',
      help: 'Jobs that ended, by task and outcome',
      labelNames: ['task', 'outcome'],
      registers,
    }),
    mails: new Counter({
      name: 'heathland_mails_total',
      help: 'Tries to send a mail, by what it is and what became of it',
      labelNames: ['kind', 'outcome'],
      registers,
    }),
    lostEvents: new Counter({
      name: 'heathland_events_lost_total',
      help: 'Acts of recipients that could not be written down',
      registers,
    }),
    endedComputing: new Counter({
      name: 'heathland_compute_ended_total',
      help: 'Pieces of work whose process was ended or died, by kind and reason',
      labelNames: ['kind', 'why'],
      registers,
    }),
  };
}

type Metrics = ReturnType<typeof made>;
const shared = globalThis as typeof globalThis & { heathlandMetrics?: Metrics };

/** What this process counts: one for the whole of it, however many bundles of ours it has loaded. Nothing in it is personal. */
export const metrics = (): Metrics => (shared.heathlandMetrics ??= made());

/** From now on this process also tells of its memory, its event loop and its garbage, under its name. */
export function countProcess(process: ProcessName): void {
  const { registry } = metrics();
  registry.setDefaultLabels({ process });
  collectDefaultMetrics({ register: registry });
}

/** What this process has counted, as another process of ours can put it together with its own. */
export const countedHere = (): Promise<object[]> => metrics().registry.getMetricsAsJSON();

type Counted = { values?: { value: unknown }[] };

/** The metrics of several processes as text (Prometheus exposition format 0.0.4). What is not known yet is left out: on its way it became null. */
export const metricsText = (counted: object[][]): Promise<string> =>
  AggregatorRegistry.aggregate(
    counted.map((list) =>
      list.map((metric: Counted) => ({
        ...metric,
        values: (metric.values ?? []).filter(({ value }) => Number.isFinite(value)),
      })),
    ),
  ).metrics();
