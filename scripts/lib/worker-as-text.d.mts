export function workerAsText(name: string, entry: string): { name: string, resolveId: (id: string) => string | null, load: (id: string) => Promise<string | null> }
export function bundledWorker(entry: string): Promise<string>
