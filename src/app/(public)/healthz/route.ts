export const dynamic = 'force-dynamic';

export const GET = () => new Response('ok');
