import createClient from "openapi-fetch";
import { sessionLost, setSessionEnded } from "@/shared/session";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

/** A refusal of the server: what happened, and where it applies field, value and what is allowed. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly field?: string,
    readonly allowed?: string,
  ) {
    super(message);
  }
}

/** The device is offline, or the server does not answer. */
export class Offline extends Error {
  constructor() {
    super("You are offline. What you entered is saved on this device.");
  }
}

function csrfToken(): string {
  return document.cookie.match(/(?:^|; )csrftoken=([^;]*)/)?.[1] ?? "";
}

const CALL_LIMIT_MS = 20_000;
const FILE_LIMIT_MS = 180_000; // a file of a whole block is read while one waits

/** fetch with the CSRF token and a time limit; offline becomes Offline. */
export async function call(input: Request | string, init: RequestInit = {}): Promise<Response> {
  const request = new Request(input, { credentials: "same-origin", ...init });
  if (!["GET", "HEAD"].includes(request.method)) request.headers.set("X-CSRFToken", csrfToken());
  try {
    const limit = request.url.includes("/api/imports/") ? FILE_LIMIT_MS : CALL_LIMIT_MS;
    const response = await fetch(request, { signal: AbortSignal.timeout(limit) });
    if (!isOurs(response)) throw new Offline();
    if (response.status === 401 && !request.url.endsWith("/api/session/")) sessionLost();
    if (response.ok) setSessionEnded(false); // signed in again, here or in another tab
    return response;
  } catch {
    throw new Offline();
  }
}

const TOO_LARGE = 413; // a proxy of the installation's own says so too, in its own words

/** Whether the server has answered: it answers in JSON or with nothing. A page comes from whoever stands in between. */
function isOurs(response: Response): boolean {
  const type = response.headers.get("Content-Type") ?? "";
  return response.status === 204 || response.status === TOO_LARGE || /\bjson\b/.test(type);
}

export const api = createClient<paths>({ baseUrl: location.origin, fetch: call });

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or the refusal thrown. */
export function unwrap<T>(answer: Answer<T>): T {
  if (answer.response.ok) return answer.data as T;
  throw refusal(answer.response.status, answer.error);
}

export function refusal(status: number, error: unknown): Refused {
  const said = (typeof error === "object" && error !== null ? error : {}) as {
    code?: string;
    message?: string;
    field?: string;
    allowed?: string;
  };
  return new Refused(
    status,
    said.code ?? "refused",
    said.message ?? `The server answered ${status}.`,
    said.field,
    said.allowed,
  );
}
