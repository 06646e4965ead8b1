import { Form } from 'react-bootstrap';
import { COMPANY, FRAME } from '@/core/words';

type Leader = { id: string; name: string };
type Props = {
  team: string;
  leaders: Leader[];
  /** Whom the reader may choose among; null where they may not. */
  possible: Leader[] | null;
  onLeaders: (ids: string[]) => void;
};

/** Who leads a team: taken away and added by whoever manages members. */
export function TeamLeaders({ team, leaders, possible, onLeaders }: Props) {
  const words = COMPANY.teams;
  if (!possible) return leaders.map(({ name }) => name).join(', ');
  const ids = leaders.map(({ id }) => id);
  const others = possible.filter(({ id }) => !ids.includes(id));
  return (
    <ul className="leaders">
      {leaders.map(({ id, name }) => (
        <li key={id}>
          {name}{' '}
          <button
            type="button"
            className="plain"
            aria-label={words.endLeading(name, team)}
            onClick={() => onLeaders(ids.filter((each) => each !== id))}
          >
            {FRAME.remove}
          </button>
        </li>
      ))}
      {others.length > 0 && (
        <li>
          <Form.Select
            size="sm"
            aria-label={words.leaderOf(team)}
            value=""
            onChange={({ target }) => target.value && onLeaders([...ids, target.value])}
          >
            <option value="">{words.chooseLeader}</option>
            {others.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </Form.Select>
        </li>
      )}
    </ul>
  );
}
