/** A refusal by the server (RFC 9457): code, sentence, and the fields at fault. */
export interface FieldError {
  field: string;
  message: string;
  code: string;
}

export class Problem extends Error {
  readonly status: number;
  readonly code: string;
  readonly errors: FieldError[];
  readonly current: Record<string, unknown> | undefined;
  readonly yours: Record<string, unknown> | undefined;

  constructor(status: number, body: unknown) {
    const value = isRecord(body) ? body : {};
    super(typeof value["detail"] === "string" ? value["detail"] : `The server answered ${status}.`);
    this.status = status;
    this.code = typeof value["title"] === "string" ? value["title"].replaceAll(" ", "_") : "unknown";
    this.errors = Array.isArray(value["errors"]) ? value["errors"].filter(isFieldError) : [];
    this.current = isRecord(value["current"]) ? value["current"] : undefined;
    this.yours = isRecord(value["yours"]) ? value["yours"] : undefined;
  }

  /** The message for a field, by the end of its path: "rim.erd_mm" finds "specification.rim.erd_mm". */
  for(field: string): string | undefined {
    return this.errors.find((e) => e.field === field || e.field.endsWith(`.${field}`))?.message;
  }
}

/** The network failed: nothing reached the server, or no answer came back. */
export class Unreachable extends Error {
  constructor() {
    super("The server cannot be reached.");
  }
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function isFieldError(value: unknown): value is FieldError {
  return isRecord(value) && typeof value["field"] === "string" && typeof value["message"] === "string";
}

export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : "Something went wrong.";
}
