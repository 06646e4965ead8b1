import { readFileSync } from 'node:fs';

export const dynamic = 'force-dynamic';

const answer = process.env.BENCH_ANSWER ? readFileSync(process.env.BENCH_ANSWER, 'utf8') : '{"headers":{},"body":""}';
const { headers, body } = JSON.parse(answer) as { headers: Record<string, string>; body: string };
const bytes = Buffer.from(body, 'base64');

/** The bare route handler that the listener is measured against: the same bytes, headers included, and nothing else. */
export const GET = () => new Response(bytes, { headers });
