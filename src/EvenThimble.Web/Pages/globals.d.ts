/** What the page loads beside our own modules. */
interface Htmx {
  ajax(verb: string, path: string, context: { values?: Record<string, unknown>; target?: string | Element; swap?: string; source?: Element }): Promise<void>;
  process(element: Element): void;
}

interface Window {
  htmx: Htmx;
}
