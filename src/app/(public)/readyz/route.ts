import { databaseTrouble } from '@/server/services/jobs/health';

export const dynamic = 'force-dynamic';

export const GET = async () => {
  const trouble = await databaseTrouble();
  return new Response(trouble ?? 'ready', { status: trouble ? 503 : 200 });
};
