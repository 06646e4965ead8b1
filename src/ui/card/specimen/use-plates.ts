import { useEffect, useMemo, useState } from 'react';
import { linesOn, type Composition } from '@/core/card';
import { HOUSE_LOGO, houseLogo, logoGround, platesFor, type HouseStyle } from '@/core/house';
import { nightLook, type LogoColours, type Plates } from '@/core/look';
import { call } from '@/ui/studio/call';

/** Colours of the logos that were looked at, by their hash. */
const known = new Map<string, Promise<LogoColours>>();
const NONE: LogoColours = [];

function coloursOf(hash: string): Promise<LogoColours> {
  const asked = known.get(hash);
  if (asked) return asked;
  const made = call<{ colours: string[] }>(`/api/pictures/${hash}/colours`).then((answer) => {
    if (answer.ok) return answer.value.colours;
    known.delete(hash);
    return NONE;
  });
  known.set(hash, made);
  return made;
}

/** The strongest colours of a logo, read from its own pixels; none until they are known. */
export function useLogoColours(hash: string | null): LogoColours {
  const [found, setFound] = useState<{ of: string; colours: LogoColours } | null>(null);
  useEffect(() => {
    let gone = false;
    if (hash) void coloursOf(hash).then((colours) => !gone && setFound({ of: hash, colours }));
    return () => {
      gone = true;
    };
  }, [hash]);
  return found && found.of === hash ? found.colours : NONE;
}

/** What stands behind the logo of a dressed card where it would vanish. */
export function usePlates(shown: Composition | null, house: HouseStyle | null): Plates | undefined {
  const line = shown && linesOn(shown, 'page').find(({ detail }) => detail.kind === 'logo');
  const day = line && 'picture' in line.detail ? line.detail.picture : null;
  const byNight =
    shown && house && line?.id === HOUSE_LOGO ? houseLogo(house, logoGround(nightLook(shown.look))) : null;
  const night = byNight?.hash ?? day;
  const [ofDay, ofNight] = [useLogoColours(day), useLogoColours(night)];
  const look = shown?.look;
  return useMemo(() => (look && day ? platesFor(look, ofDay, ofNight) : undefined), [look, day, ofDay, ofNight]);
}
