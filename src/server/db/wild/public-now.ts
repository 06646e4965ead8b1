/** Copies that somebody can do something about: neither dealt with nor of a piece that is given up; saved contacts cannot be called back. */
export const STILL_OUT = `c.channel NOT IN ('file', 'mail') AND c.done_at IS NULL AND coalesce(h.state, 'out') <> 'retired'`;

/** Every value that is public now, by each form: what published cards show, and what copies carry. `only` narrows it. */
export const publicNow = (only: string): string => `(
    SELECT o.record_id, o.id AS card_id, o.audience, v.line, v.kind, v.value, v.source, v.label, v.detail, v.privacy, a.channel
    FROM published_values v JOIN cards o ON o.id = v.card_id CROSS JOIN LATERAL unnest(v.channels) a(channel)
    WHERE o.state = 'published' AND a.channel IN ('page', 'file') AND ${only}
    UNION ALL
    SELECT o.record_id, o.id, o.audience, v.line, v.kind, v.value, v.source, v.label, v.detail, v.privacy, c.channel
    FROM carried v JOIN copies c ON c.id = v.copy_id JOIN cards o ON o.id = c.card_id LEFT JOIN hand_outs h ON h.id = c.hand_out_id
    WHERE ${STILL_OUT} AND ${only}
  )`;
