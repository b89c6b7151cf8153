/** An error answer (RFC 9457) as something to throw and to show. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly errors: { pointer: string; detail: string }[] = [],
  ) {
    super(detail);
  }
}

export async function request(
  path: string,
  init: Omit<RequestInit, 'headers'> & { headers?: Record<string, string> } = {},
): Promise<Response> {
  let response: Response;
  do {
    try {
      response = await fetch(`/api/${path}`, {
        ...init,
        headers: { Accept: 'application/json', ...fromOurPages(), ...init.headers },
      });
    } catch (error) {
      if (init.signal?.aborted) throw error;
      throw new ProblemError(
        0,
        'Yard Break does not answer',
        'Is it still running? Start it again with bin/start; nothing stored is lost.',
      );
    }
  } while (await saysLater(response, init.signal));
  // Away for long, or signed out in another tab: to the door, and back here.
  if (response.status === 401)
    window.location.assign(`/sign-in?to=${encodeURIComponent(window.location.pathname)}`);
  if (!response.ok) {
    const body = (await response.json().catch(() => ({}))) as {
      title?: string;
      detail?: string;
      errors?: { pointer: string; detail: string }[];
    };
    throw new ProblemError(
      response.status,
      body.title ?? 'Something went wrong',
      body.detail ?? `The server answered ${response.status}.`,
      body.errors,
    );
  }
  return response;
}

/** Where one signs in, a change must show what only a page of ours can read. */
function fromOurPages(): Record<string, string> {
  // Frames are read outside a page, too.
  const cookies = typeof document === 'undefined' ? '' : document.cookie;
  const token = /(?:^|; )XSRF-TOKEN=([^;]*)/.exec(cookies)?.[1];
  return token === undefined ? {} : { 'X-XSRF-TOKEN': decodeURIComponent(token) };
}

/** How soon one asks again, ms: sooner than the server says, which speaks to everybody. */
const SOON = 400;

/** Whether others are served first; then it is time to ask again, unless nobody wants to know any more. */
async function saysLater(response: Response, signal?: AbortSignal | null): Promise<boolean> {
  if (response.status !== 503 || !response.headers.has('Retry-After')) return false;
  await new Promise((resolve) => setTimeout(resolve, SOON));
  signal?.throwIfAborted();
  return true;
}

export async function getJson<T>(path: string, signal?: AbortSignal): Promise<T> {
  return (await request(path, { signal })).json() as Promise<T>;
}

export async function sendJson<T>(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<T> {
  const response = await request(path, {
    method,
    headers: { 'Content-Type': 'application/json', ...headers },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  return (response.status === 204 ? undefined : await response.json()) as T;
}
