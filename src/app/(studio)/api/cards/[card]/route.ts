import { z } from 'zod';
import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { VersionSchema } from '@/app/request/well-formed';
import { AudienceSchema, BlocksSchema, LinesSchema, OpensSchema, WordsSchema } from '@/core/card';
import { LookSchema } from '@/core/look';
import { LanguageSchema } from '@/core/language/schema';
import { systemClock } from '@/server/clock';
import { deleteCard } from '@/server/services/cards/deletion';
import { saveCard } from '@/server/services/cards/edit-card';
import { cardNow } from '@/server/services/cards/open-card';

const Input = z.object({
  baseVersion: VersionSchema,
  lines: LinesSchema,
  audience: AudienceSchema,
  language: LanguageSchema.nullable().optional(),
  blocks: BlocksSchema.optional(),
  opens: OpensSchema.optional(),
  words: WordsSchema.optional(),
  look: LookSchema.optional(),
});

type Params = { params: Promise<{ card: string }> };

/** The card as it stands now, for a table that is open while somebody else saves. */
export const GET = (_request: Request, { params }: Params) =>
  respond(async () => cardNow(await actorOrRefuse(), idOf((await params).card)));

export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    saveCard(actor, idOf((await params).card), await inputOf(request, Input, LIMITS.jsonBytes), systemClock),
  );

export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => deleteCard(actor, idOf((await params).card), systemClock));
