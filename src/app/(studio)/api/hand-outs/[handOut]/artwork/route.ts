import { bytesOf, change, idOf } from '@/app/request/respond';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { SIDES, type SideName } from '@/core/print';
import { systemClock } from '@/server/clock';
import { dropArtwork, giveArtwork } from '@/server/services/pieces/give-artwork';

type Params = { params: Promise<{ handOut: string }> };

function sideOf(request: Request): { side: SideName; name: string } {
  const asked = new URL(request.url).searchParams;
  const side = SIDES.find((each) => each === (asked.get('side') ?? 'front'));
  if (!side) throw new Refusal({ code: 'INPUT', field: 'side' });
  return { side, name: (asked.get('name') ?? '').slice(0, LIMITS.artworkName) };
}

/** Takes in a design for a side (`?side=front|back`, `?name=` of its file). */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'picture', async (actor) => {
    const id = idOf((await params).handOut);
    const bytes = await bytesOf(request, LIMITS.artworkBytes);
    return giveArtwork(actor, id, { ...sideOf(request), bytes }, systemClock);
  });

/** Takes the design of a side away. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    dropArtwork(actor, idOf((await params).handOut), sideOf(request).side, systemClock),
  );
