import type { CardState } from '@/core/card';
import type { Figures } from '@/core/response';

export type PersonInList = {
  id: string;
  name: string;
  role: string;
  picture: string | null;
  cards: {
    id: string;
    audience: string;
    state: CardState;
    revision: number | null;
    changed: string;
    failing: string | null;
    week: Figures;
  }[];
};
