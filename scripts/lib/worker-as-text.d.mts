export function workerAsText(name: string, entry: string, platform?: 'node' | 'browser'): { name: string, resolveId: (id: string) => string | null, load: (id: string) => Promise<string | null> }
export function bundledWorker(entry: string, platform?: 'node' | 'browser'): Promise<string>
