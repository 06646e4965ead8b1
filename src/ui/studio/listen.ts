/** A stream that the server refused is asked for again after so long; one that broke off the browser opens by itself. */
const AGAIN_MS = 3_000;
/** Many tables that were refused at once, as when the application is started anew, come back one after the other. */
const SPREAD_MS = 3_000;

/** Listens to server-sent events of ours until told to stop; answers with what stops it. */
export function listen<T>(path: string, hear: (told: T, stop: () => void) => void): () => void {
  let stream: EventSource | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let stopped = false;
  const stop = () => {
    stopped = true;
    clearTimeout(timer);
    stream?.close();
  };
  const open = () => {
    stream = new EventSource(path);
    stream.onmessage = ({ data }) => hear(JSON.parse(String(data)) as T, stop);
    stream.onerror = () => {
      if (!stopped && stream?.readyState === EventSource.CLOSED)
        timer = setTimeout(open, AGAIN_MS + Math.random() * SPREAD_MS);
    };
  };
  open();
  return stop;
}
