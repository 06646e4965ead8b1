import { readFileSync } from 'node:fs';

export const dynamic = 'force-dynamic';

const body = process.env.BENCH_BODY ? readFileSync(process.env.BENCH_BODY) : Buffer.from('');

/** The bare route handler that the listener is measured against: the same bytes and nothing else. */
export const GET = () => new Response(body, { headers: { 'Content-Type': 'text/html; charset=utf-8' } });
