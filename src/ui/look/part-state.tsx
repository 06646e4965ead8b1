'use client';
import { Form } from 'react-bootstrap';
import type { HouseStyle } from '@/core/house';
import type { Look, LookPart } from '@/core/look';
import { GIVEN, LOOK } from '@/core/words';

/** Whether a part of a card's look is the house style's: locked with its reason, followed by choice, or given up by override. */
export function PartState({
  part,
  look,
  house,
  mayOverride,
  onLook,
}: {
  part: LookPart;
  /** The card's own look. */
  look: Look;
  house: HouseStyle;
  mayOverride: boolean;
  onLook: (look: Look) => void;
}) {
  const reason = house.locks[part];
  const overridden = look.overrides.includes(part);
  const without = (parts: LookPart[]) => parts.filter((each) => each !== part);
  if (reason !== undefined)
    return (
      <span className="part-state">
        {overridden ? (
          <span>{LOOK.overridden}</span>
        ) : (
          <span className="lock">
            <span aria-hidden="true">⌂ </span>
            {GIVEN.locked}: {reason}
          </span>
        )}
        {mayOverride && (
          <button
            type="button"
            className="plain"
            onClick={() =>
              onLook({
                ...look,
                overrides: overridden ? without(look.overrides) : [...look.overrides, part],
              })
            }
          >
            {overridden ? LOOK.giveBack : LOOK.override}
          </button>
        )}
      </span>
    );
  return (
    <Form.Check
      id={`follow-${part}`}
      className="part-state"
      label={LOOK.follow}
      checked={look.follows.includes(part)}
      onChange={({ target }) =>
        onLook({ ...look, follows: target.checked ? [...look.follows, part] : without(look.follows) })
      }
    />
  );
}
