const CACHE = 'rackle-files';
/** What banks and recordings may take in this browser; the oldest make room. */
export const MOST_KEPT_MB = 1024;
const MB = 1024 * 1024;

/** Banks and recordings that the browser keeps, by hash. */
export interface KeptFiles {
  files: number;
  mb: number;
  mostMb: number;
}

const opened = (): Promise<Cache | null> =>
  typeof caches === 'undefined' ? Promise.resolve(null) : caches.open(CACHE).catch(() => null);

/**
 * The bytes of a stored file: from this browser, where it was here before, else from the server, after which it is kept.
 * Files are named by what they hold, so that what is kept is never out of date.
 * @throws Error when the server does not have it, or is not there
 */
export async function fetchKept(address: string): Promise<ArrayBuffer> {
  const cache = await opened();
  const kept = await cache?.match(address);
  if (kept) return kept.arrayBuffer();
  const answer = await fetch(address);
  if (!answer.ok) throw new Error(`the server answers ${answer.status}`);
  const bytes = await answer.arrayBuffer();
  // Kept once it is here: whoever waits for it does not wait for that.
  if (cache)
    void keep(cache, address, new Response(bytes, { headers: { 'Content-Length': String(bytes.byteLength) } }));
  return bytes;
}

/** What is kept now. */
export async function keptFiles(): Promise<KeptFiles> {
  const cache = await opened();
  const sizes = cache ? await sizesIn(cache) : [];
  const mb = sizes.reduce((sum, { bytes }) => sum + bytes, 0) / MB;
  return { files: sizes.length, mb, mostMb: MOST_KEPT_MB };
}

async function keep(cache: Cache, address: string, answer: Response): Promise<void> {
  try {
    await cache.put(address, answer);
    await makeRoom(cache, MOST_KEPT_MB * MB);
  } catch {
    // The browser has no room left: it is played all the same, and fetched again the next time.
  }
}

/** Files that came first go first. */
export async function makeRoom(cache: Pick<Cache, 'keys' | 'match' | 'delete'>, mostBytes: number): Promise<void> {
  const sizes = await sizesIn(cache);
  let sum = sizes.reduce((all, { bytes }) => all + bytes, 0);
  for (const { request, bytes } of sizes.slice(0, -1)) {
    if (sum <= mostBytes) return;
    await cache.delete(request);
    sum -= bytes;
  }
}

async function sizesIn(cache: Pick<Cache, 'keys' | 'match'>): Promise<{ request: Request; bytes: number }[]> {
  const requests = await cache.keys();
  return Promise.all(
    requests.map(async (request) => {
      const answer = await cache.match(request);
      return { request, bytes: Number(answer?.headers.get('content-length') ?? 0) };
    }),
  );
}
