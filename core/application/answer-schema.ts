import { z } from 'zod'

/** The shape of an answer on the wire; its meaning is judged by `checkAnswer`, which never loses a wrong value. */
export const answerSchema = z.union([
  z.string().max(5000),
  z.array(z.string().max(100)).max(50),
  z.array(z.record(z.string().max(60), z.string().max(200))).max(50),
])
