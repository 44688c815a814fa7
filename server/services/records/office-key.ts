import { addOfficeKey } from '../../secrets/office-key'
import { sealKeysAnew } from '../cards/keys'
import { log, type Context } from '../context'
import { sealFactorsAnew } from '../people/second-factor'

/**
 * Puts a new key of the office in place of the one that seals, and seals every secret of the database under it. Broken off in between, all
 * secrets are open to one key of the file or the other, and it can be asked for again. Servers that run go on: they read the file again
 * when they meet what the new key sealed.
 *
 * @param path of the key file.
 * @returns how many secrets were sealed anew.
 */
export async function rotateOfficeKey(context: Context, path: string): Promise<{ keys: number, factors: number }> {
  addOfficeKey(path)
  return context.db.transaction(async (tx) => {
    const sealed = { keys: await sealKeysAnew(tx), factors: await sealFactorsAnew(tx) }
    await log(tx, context, 'rotate-office-key', { subject: { kind: 'office', id: 'office-key' }, after: sealed })
    return sealed
  })
}
