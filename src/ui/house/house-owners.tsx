'use client';
import { Form } from 'react-bootstrap';
import { OWNABLE, type Ownable, type Owned } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { HOUSE } from '@/core/words';

const words = HOUSE.owned;

/** Whose each kind of detail is: the organisation's with the reason that holders read, or the holder's. */
export function HouseOwners({ owned, onOwned }: { owned: Owned; onOwned: (owned: Owned | undefined) => void }) {
  function put(kind: Ownable, reason: string | null) {
    const { [kind]: _old, ...others } = owned;
    const next: Owned = reason === null ? others : { ...others, [kind]: reason };
    onOwned(Object.keys(next).length > 0 ? next : undefined);
  }
  return (
    <>
      <p className="note">{words.text}</p>
      <ul className="house-owners">
        {OWNABLE.map((kind) => {
          const [name, reason] = [words.kinds[kind], owned[kind]];
          return (
            <li key={kind}>
              <span>{name}</span>
              <Form.Select
                size="sm"
                aria-label={words.whose(name)}
                value={reason === undefined ? 'holder' : 'organisation'}
                onChange={({ target }) => put(kind, target.value === 'holder' ? null : words.usual)}
              >
                <option value="holder">{words.holder}</option>
                <option value="organisation">{words.organisation}</option>
              </Form.Select>
              {reason !== undefined && (
                <Form.Control
                  size="sm"
                  aria-label={words.reason(name)}
                  defaultValue={reason}
                  maxLength={LIMITS.lockReason}
                  onChange={({ target }) => put(kind, target.value.trim() || words.usual)}
                />
              )}
            </li>
          );
        })}
      </ul>
    </>
  );
}
