import { USES, type Detail } from '@/core/record';

/**
 * Numbers that came just now: a mobile starts with texts offered, a known land line without; its holder may say otherwise. The
 * numbering plan is large and loaded when the first number comes.
 */
export async function suitTexts(details: Detail[]): Promise<Detail[]> {
  if (!details.some(({ kind }) => kind === 'phone')) return details;
  const { takesTexts } = await import('@/core/record/line-type');
  return details.map((detail) => {
    if (detail.kind !== 'phone') return detail;
    const takes = takesTexts(detail.number);
    const offered = takes ?? detail.uses.includes('mobile');
    const silent = detail.uses.some((use) => use === 'fax' || use === 'pager');
    return { ...detail, uses: USES.filter((use) => (use === 'text' ? offered && !silent : detail.uses.includes(use))) };
  });
}
