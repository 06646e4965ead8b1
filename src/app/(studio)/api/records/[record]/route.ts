import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { VersionSchema } from '@/app/request/well-formed';
import { RecordSchema } from '@/core/record';
import { systemClock } from '@/server/clock';
import { deletePerson } from '@/server/services/cards/deletion';
import { saveRecord } from '@/server/services/records/edit-record';

const Input = z.object({ baseVersion: VersionSchema, body: RecordSchema });

export const PUT = (request: Request, { params }: { params: Promise<{ record: string }> }) =>
  change(request, 'change', async (actor) => {
    const { baseVersion, body } = await inputOf(request, Input, LIMITS.jsonBytes);
    return saveRecord(actor, idOf((await params).record), baseVersion, body, systemClock);
  });

export const DELETE = (request: Request, { params }: { params: Promise<{ record: string }> }) =>
  change(request, 'change', async (actor) => deletePerson(actor, idOf((await params).record), systemClock));
