import { answerWeb } from '@/app/request/recipient';

const answer = async (request: Request, { params }: { params: Promise<{ path: string[] }> }) =>
  answerWeb(request, `/r/${(await params).path.join('/')}`);

export const GET = answer;
export const HEAD = answer;
export const POST = answer;
