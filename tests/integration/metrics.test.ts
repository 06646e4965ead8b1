import { createMetricsServer } from '@/server/listen/metrics-server';
import { log } from '@/server/log';
import { countProcess, metrics } from '@/server/metrics';
import type { AddressInfo } from 'node:net';
import './place';

// The text that a monitoring program reads (Prometheus exposition format 0.0.4): `name{label="value"} number`, one a line.
const LINE =
  /^[a-zA-Z_:][\w:]*(\{[a-zA-Z_]\w*="[^"\n]*"(,[a-zA-Z_]\w*="[^"\n]*")*\})? (-?[\d.]+(e[+-]?\d+)?|[+-]Inf|NaN)$/;

test('what processes count is told as text, each under its name, and nothing of what an error says', async () => {
  countProcess('listener');
  log.fault(new TypeError('maud@tarnhope.example'), {}, 'something failed');
  metrics().lostEvents.inc(3);
  const other = [
    {
      name: 'heathland_events_lost_total',
      help: 'x',
      type: 'counter',
      aggregator: 'sum',
      values: [
        { value: 5, labels: { process: 'jobs' } },
        { value: null, labels: { process: 'studio' } },
      ],
    },
  ];
  const server = createMetricsServer([
    { counted: () => Promise.resolve(other) },
    { counted: () => Promise.resolve([]) },
  ]);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  try {
    const answer = await fetch(`http://127.0.0.1:${port}/metrics`);
    const text = await answer.text();
    const lines = text.split('\n').filter((line) => line && !line.startsWith('#'));
    expect(lines.filter((line) => !LINE.test(line))).toEqual([]);
    expect(lines).toContain('heathland_faults_total{code="TypeError",process="listener"} 1');
    expect(lines).toContain('heathland_events_lost_total{process="listener"} 3');
    expect(lines).toContain('heathland_events_lost_total{process="jobs"} 5');
    expect(lines.some((line) => line.startsWith('nodejs_eventloop_lag_max_seconds{process="listener"}'))).toBe(true);
    expect(text).not.toContain('maud');
    expect((await fetch(`http://127.0.0.1:${port}/`)).status).toBe(404);
  } finally {
    server.close();
    server.closeAllConnections();
  }
});
