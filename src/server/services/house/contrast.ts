import { reachOf } from '@/core/access';
import { Refusal, type Problem } from '@/core/errors';
import { measureContrast, type Look } from '@/core/look';
import type { Tx } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';

type ContrastFails = Extract<Problem, { code: 'CONTRAST_FAILS' }>;

/** What stands against colours that go out: null, or that they do not read. */
export function judgeContrast(look: Look): ContrastFails | null {
  const { failing, worst, needs } = measureContrast(look);
  return failing > 0 ? { code: 'CONTRAST_FAILS', worst, needs, count: failing } : null;
}

/** Colours that do not read go out only where somebody who may said so, and that is written down. Error: CONTRAST_FAILS. */
export async function overrideOrRefuse(
  tx: Tx,
  actor: Actor,
  subject: { kind: 'card' | 'house style'; id: string },
  look: Look,
  override: boolean,
  clock: Clock,
): Promise<void> {
  const fails = judgeContrast(look);
  if (!fails) return;
  if (!override || reachOf(actor.role, 'look.override') !== 'all') throw new Refusal(fails);
  const { worst, needs, count } = fails;
  const measured = { worst: Math.round(worst * 100) / 100, needs, count };
  await recordAudit(tx, actor, 'contrast.overridden', subject, clock, measured);
}
