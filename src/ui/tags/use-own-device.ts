import { useMemo, useSyncExternalStore } from 'react';
import { deviceOver, webReader, type TagDevice } from './device';

const never = () => () => undefined;

/** The browser's own way of writing tags; null where it has none. What it can is known once the page is in it. */
export function useOwnDevice(): TagDevice | null {
  const can = useSyncExternalStore(
    never,
    () => webReader() !== null,
    () => false,
  );
  return useMemo(() => {
    const make = can ? webReader() : null;
    return make && deviceOver(make);
  }, [can]);
}
