declare module 's3rver' {
  /** As much of the test server's interface as the tests use; the package ships no types. */
  export default class S3rver {
    constructor(options: {
      port: number;
      address: string;
      silent: boolean;
      directory: string;
      configureBuckets: { name: string; configs: string[] }[];
    });
    run(): Promise<unknown>;
    close(): Promise<void>;
  }
}
