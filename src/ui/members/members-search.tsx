import { Button, Form } from 'react-bootstrap';
import { COMPANY } from '@/core/words';

/** The address of a page of the members: those who are found by some letters, from after one of them on. */
export const membersAt = (words: string, after: string | null): string => {
  const query = new URLSearchParams({ ...(words ? { q: words } : {}), ...(after ? { after } : {}) });
  return `/company/members${query.size > 0 ? `?${query}` : ''}`;
};

/** Looks for members by name or address; works without script. */
export const MembersSearch = ({ words, present }: { words: string; present: number }) => (
  <form className="members-search" role="search" action="/company/members">
    <Form.Control
      size="sm"
      name="q"
      type="search"
      defaultValue={words}
      maxLength={200}
      aria-label={COMPANY.findMember}
      placeholder={COMPANY.findMember}
    />
    <Button size="sm" variant="quiet" type="submit">
      {COMPANY.find}
    </Button>
    <span className="small">{COMPANY.membersPresent(present)}</span>
  </form>
);
