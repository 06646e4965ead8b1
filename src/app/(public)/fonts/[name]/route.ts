import { toResponse } from '@/app/request/recipient';
import { answerFont } from '@/recipient';

export const GET = async (_request: Request, { params }: { params: Promise<{ name: string }> }) =>
  toResponse(await answerFont((await params).name, 'GET'));
