import { createReadStream } from 'node:fs';
import { createContactReader, recordFrom } from '../../src/core/vcard';

/** Reads a contact file as a stream into records and prints what memory that took, in bytes. */
async function main() {
  const idle = process.memoryUsage.rss();
  let peak = idle;
  let count = 0;
  const reader = createContactReader();
  const take = (read: ReturnType<typeof reader.push>) => {
    for (const { card } of read) if (card && recordFrom(card, 'GB')) count += 1;
    peak = Math.max(peak, process.memoryUsage.rss());
  };
  for await (const chunk of createReadStream(process.argv[2]!)) take(reader.push(chunk as Buffer));
  take(reader.end());
  process.stdout.write(JSON.stringify({ idle, peak, count }));
}

void main();
