import { settings } from '@/server/env';
import { folderStore } from './folder';
import { s3Store } from './s3';
import type { FileStore } from './store';

export { folderStore } from './folder';
export { s3Store, type S3Settings } from './s3';
export { isHash } from './store';
export type { FileStore } from './store';

let store: FileStore | undefined;

/** The store that the settings name: one that speaks S3 where its endpoint is given, else a folder. */
export function files(): FileStore {
  const { FILES_DIR, S3_ENDPOINT, S3_BUCKET, S3_REGION, S3_ACCESS_KEY, S3_SECRET_KEY } = settings();
  if (store) return store;
  if (S3_ENDPOINT)
    store = s3Store({
      endpoint: S3_ENDPOINT,
      bucket: S3_BUCKET!,
      region: S3_REGION,
      accessKey: S3_ACCESS_KEY!,
      secretKey: S3_SECRET_KEY!,
    });
  else if (FILES_DIR) store = folderStore(FILES_DIR);
  else throw new Error('FILES_DIR is missing');
  return store;
}
