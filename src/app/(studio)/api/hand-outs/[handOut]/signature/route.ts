import { z } from 'zod';
import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { SignatureOptionsSchema, VARIANTS } from '@/core/signature';
import { systemClock } from '@/server/clock';
import { openSignature, saveSignature, sendTestMail } from '@/server/services/hand-outs/signature';

type Params = { params: Promise<{ handOut: string }> };
const Sent = z.object({ variant: z.enum(VARIANTS) });

/** A signature in both variants, as it would go out now, with its proof. */
export const GET = (_: Request, { params }: Params) =>
  respond(async () => openSignature(await actorOrRefuse(), idOf((await params).handOut), systemClock));

/** Keeps how a signature is laid out. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    saveSignature(actor, idOf((await params).handOut), await inputOf(request, SignatureOptionsSchema), systemClock),
  );

/** Sends the member a mail that ends in it. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    sendTestMail(actor, idOf((await params).handOut), (await inputOf(request, Sent)).variant, systemClock),
  );
