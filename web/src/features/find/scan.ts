/** What a tag's code says: the address of its job. */
const TAG = /https?:\/\/\S+\/jobs\/([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})\b/i;

export function jobOnTag(text: string): string | undefined {
  return TAG.exec(text)?.[1]?.toLowerCase();
}

const BEGINS = /https?:$/i;
const MOST = 300;

export interface Scanner {
  /** One key; `typed` where it goes into a field. Swallowed keys are not for the bench. */
  press: (key: string, typed: boolean) => { swallow: boolean; begins: boolean; job?: string };
}

/** Follows keys until they are a tag's address with Enter behind it. By what is typed alone: nothing goes by the clock. */
export function scanner(): Scanner {
  let text = "";
  let scanning = false;
  const rest = () => {
    text = "";
    scanning = false;
  };
  return {
    press(key, typed) {
      if (key === "Enter") {
        const job = jobOnTag(text);
        rest();
        return job ? { swallow: true, begins: false, job } : { swallow: false, begins: false };
      }
      if (key === "Escape") rest();
      if (key.length !== 1) return { swallow: false, begins: false };
      const begins = !scanning && key.toLowerCase() === "h";
      if (begins) text = "";
      text = (text + key).slice(-MOST);
      if (BEGINS.test(text)) scanning = true;
      return { swallow: scanning && !typed, begins };
    },
  };
}

type TextBox = HTMLInputElement | HTMLTextAreaElement;

function textBox(target: EventTarget | null): TextBox | undefined {
  if (target instanceof HTMLTextAreaElement) return target;
  const box = target instanceof HTMLInputElement && !["button", "checkbox", "radio"].includes(target.type);
  return box ? target : undefined;
}

/**
 * A hand scanner types the address like a very quick person and presses Enter, wherever the focus is. From its first
 * "http:" on, no key of it reaches the bench; in a field the address is taken out again, so that nothing half-typed is left.
 */
export function listenForScans(onTag: (jobId: string) => void): () => void {
  const follows = scanner();
  let field: { box: TextBox; before: string } | undefined;
  const listen = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const box = textBox(event.target);
    const { swallow, begins, job } = follows.press(event.key, Boolean(box));
    if (begins) field = box && { box, before: box.value };
    if (swallow) {
      event.preventDefault();
      event.stopImmediatePropagation();
    }
    if (!job) return;
    if (field) write(field.box, field.before);
    field = undefined;
    onTag(job);
  };
  window.addEventListener("keydown", listen, true);
  return () => window.removeEventListener("keydown", listen, true);
}

/** As if typed: React hears of it. */
function write(box: TextBox, value: string) {
  const kind = box instanceof HTMLTextAreaElement ? HTMLTextAreaElement : HTMLInputElement;
  Object.getOwnPropertyDescriptor(kind.prototype, "value")?.set?.call(box, value);
  box.dispatchEvent(new Event("input", { bubbles: true }));
}

/** Whether a key that is pressed now would be typed somewhere. */
export const typesSomewhere = (target: EventTarget | null) =>
  Boolean(textBox(target)) || target instanceof HTMLSelectElement;
