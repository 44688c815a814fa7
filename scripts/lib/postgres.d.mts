/** What the tests use of the scripts' PostgreSQL: see postgres.mjs. */
export interface Cluster { url: (database: string, role?: string) => string, copy: (from: string, to: string) => void, crash: () => Promise<void>, recreate: (database: string) => void, stop: () => void }
export function startCluster(name?: string, options?: { throwaway?: boolean }): Promise<Cluster>
