/** What proofs say: the sentence first, the figure in it. Bytes are written by {@link figure}. */
export const PROOF = {
  unreadable: 'Another program’s reader cannot read the file.',
  tickedLines: (read: number, of: number) => `${read} of ${of} ticked lines read back.`,
  noneOf: (unticked: number) => `None of ${unticked} unticked values in it.`,
  stillThere: (unticked: number) => `${unticked} unticked values still appear in it.`,
  noOtherHost: 'Asks no other host.',
  otherHosts: (times: number) => `Asks another host ${times} times.`,
  bytes: (bytes: number) => `${figure(bytes)} B`,
  bytesOf: (bytes: number, most: number) => `${figure(bytes)} of ${figure(most)} B`,
};

/** A number as the studio writes it: groups of three. */
export const figure = (number: number): string => number.toLocaleString('en-GB');
