import { z } from 'zod'

/** Addresses of one database of the tests, by the role that works in it. */
export interface TestDatabase {
  superuser: string
  owner: string
  application: string
  files: string
}

const schema = z.strictObject({ superuser: z.url(), owner: z.url(), application: z.url(), files: z.url() })

/** The template that `npm test` names, or another database of the same cluster. */
export function testDatabase(name?: string): TestDatabase {
  const given = process.env.LUCID_TEST_DATABASES
  if (!given) throw new Error('LUCID_TEST_DATABASES is not set: run these tests with "npm test -- unit"')
  const { superuser, owner, application, files } = schema.parse(JSON.parse(given))
  const of = (template: string) => {
    const url = new URL(template)
    if (name !== undefined) url.pathname = `/${name}`
    return url.href
  }
  return { superuser: of(superuser), owner: of(owner), application: of(application), files: of(files) }
}
