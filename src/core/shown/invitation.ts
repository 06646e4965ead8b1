/** An invitation that nobody has taken yet; instants are ISO 8601, UTC. */
export type ShownInvitation = {
  sent: string;
  times: number;
  reminded: string | null;
  state: 'waiting' | 'undelivered' | 'expired' | 'withdrawn';
};
