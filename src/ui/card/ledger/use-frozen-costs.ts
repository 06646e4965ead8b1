import { useEffect, useMemo, useState } from 'react';
import type { Channel, Composition } from '@/core/card';
import type { Result } from '@/core/errors';
import { applyHouseStyle, type HouseStyle } from '@/core/house';
import type { frozenCosts } from '@/core/vcard';
import type { Costs } from './ledger-foot';

/** What each line costs a frozen code or tag, the house's fixed lines in it. What writes them is loaded for cards that have one. */
export function useFrozenCosts(
  composed: Result<Composition>,
  channels: readonly Channel[],
  house: HouseStyle | null,
): Costs {
  const small = useMemo(
    () => channels.filter((each): each is 'code' | 'tag' => each === 'code' || each === 'tag'),
    [channels],
  );
  const [write, setWrite] = useState<{ costs: typeof frozenCosts } | null>(null);
  useEffect(() => {
    if (small.length > 0) void import('@/core/vcard').then((made) => setWrite({ costs: made.frozenCosts }));
  }, [small]);
  return useMemo((): Costs => {
    if (!composed.ok || !write) return {};
    const shown = applyHouseStyle(composed.value, house);
    return Object.fromEntries(small.map((each) => [each, write.costs(shown, each)]));
  }, [composed, small, write, house]);
}
