import { databaseAnswers } from '@/server/services/jobs/health';

export const dynamic = 'force-dynamic';

export const GET = async () =>
  (await databaseAnswers()) ? new Response('ready') : new Response('the database does not answer', { status: 503 });
