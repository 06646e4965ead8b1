import type { ProfileText, SeenElsewhere } from '@/core/profile';

/** What a profile page elsewhere is filled with. */
export type ShownProfile = {
  id: string;
  cardId: string;
  placement: string;
  link: string;
  parameters: string;
  title: ProfileText;
  texts: ProfileText[];
};

/** What a page that fetches the link finds, from the bytes that it would be given; its picture as a `data:` address, null where there is none. */
export type ShownElsewhere = SeenElsewhere & { picture: string | null };
