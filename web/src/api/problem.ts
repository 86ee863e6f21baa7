import { t as say } from "@lingui/core/macro";
/** A refusal by the server (RFC 9457): code, sentence, and the fields at fault. */
export interface FieldError {
  field: string;
  message: string;
  code: string;
}

const OURS = "urn:felloe:problem:";

/** Felloe itself looked at what was sent and said no. */
export class Problem extends Error {
  readonly status: number;
  readonly code: string;
  readonly errors: FieldError[];
  readonly current: Record<string, unknown> | undefined;
  readonly yours: Record<string, unknown> | undefined;

  constructor(status: number, body: unknown) {
    const value = isRecord(body) ? body : {};
    super(typeof value["detail"] === "string" ? value["detail"] : say`The server answered ${status}.`);
    this.status = status;
    this.code = codeOf(value) ?? "unknown";
    this.errors = Array.isArray(value["errors"]) ? value["errors"].filter(isFieldError) : [];
    this.current = isRecord(value["current"]) ? value["current"] : undefined;
    this.yours = isRecord(value["yours"]) ? value["yours"] : undefined;
  }

  /** The message for a field, by the end of its path: "rim.erd_mm" finds "specification.rim.erd_mm". */
  for(field: string): string | undefined {
    return this.errors.find((e) => e.field === field || e.field.endsWith(`.${field}`))?.message;
  }
}

/** Nothing of Felloe's answered: the network is away, or something in between said no in its own words. */
export class Unreachable extends Error {
  /** What stood in between answered, where anything did. */
  readonly status: number | undefined;

  constructor(status?: number) {
    super(
      status === undefined
        ? say`The server cannot be reached.`
        : say`Something between this tablet and Felloe answered ${status}.`,
    );
    this.status = status;
  }
}

/** Felloe answered, and had a fault of its own. */
export class ServerFault extends Error {
  readonly status: number;

  constructor(status: number) {
    super(say`Felloe had a fault of its own (${status}).`);
    this.status = status;
  }
}

/** What an answer that is no success means. Only Felloe's own problem document is a refusal. */
export function failureOf(response: Response, body: unknown): Problem | Unreachable | ServerFault {
  const ours =
    (response.headers.get("Content-Type") ?? "").startsWith("application/problem+json") &&
    isRecord(body) &&
    codeOf(body) !== undefined;
  if (!ours) return new Unreachable(response.status);
  // Felloe is there and its database is not: as good as no answer. Whatever was sent may or may not have been kept.
  if (codeOf(body) === DATABASE_AWAY) return new Unreachable();
  if (response.status >= 500) return new ServerFault(response.status);
  return new Problem(response.status, body);
}

function codeOf(value: Record<string, unknown>): string | undefined {
  const type = value["type"];
  return typeof type === "string" && type.startsWith(OURS) ? type.slice(OURS.length) : undefined;
}

export function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function isFieldError(value: unknown): value is FieldError {
  return isRecord(value) && typeof value["field"] === "string" && typeof value["message"] === "string";
}

const DATABASE_AWAY = "database_away";
export const SESSION_OVER = "not_signed_in";
export const OTHER_PERSON = "other_person";
export const BAD_COOKIE = "csrf_failed";

export function isSessionOver(error: unknown): boolean {
  return error instanceof Problem && (error.code === SESSION_OVER || error.code === OTHER_PERSON);
}

export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : say`Something went wrong.`;
}
