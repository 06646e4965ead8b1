import { useEffect, useMemo, useState } from 'react';
import { privacyOf, type Privacy, type TypeOf } from '@/core/card';
import type { Detail, PersonRecord } from '@/core/record';

/**
 * Why each of these details goes nowhere by itself. The numbering plan tells land lines; it is large, and loaded where a phone has
 * nothing else that tells.
 */
export function usePrivacies(details: Iterable<Detail>, record: PersonRecord): Map<string, Privacy> {
  const [typeOf, setTypeOf] = useState<TypeOf | undefined>();
  const privacies = useMemo(() => {
    const found = new Map<string, Privacy>();
    for (const detail of details) {
      const privacy = privacyOf(detail, record, typeOf);
      if (privacy) found.set(detail.id, privacy);
    }
    return found;
  }, [details, record, typeOf]);
  const asks = !typeOf && [...details].some(({ id, kind }) => kind === 'phone' && privacies.get(id) === 'unmarked');
  useEffect(() => {
    if (asks) void import('@/core/record/line-type').then(({ lineTypeOf }) => setTypeOf(() => lineTypeOf));
  }, [asks]);
  return privacies;
}
