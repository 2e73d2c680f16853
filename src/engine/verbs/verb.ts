import type { ObjectSchema } from 'yup'
import type { Sources } from '../sources'

/** A question the engine answers. */
export interface Verb<Request extends object, Answer extends object> {
  /** What the body of a request must be; whatever else comes with it is left alone. */
  schema: ObjectSchema<Request>
  /** How long a request waits for the database before it is answered from what is there, in milliseconds. */
  patience: number
  /** Answers a body as it came. Throws yup's ValidationError naming what is wrong with it. */
  answer(sources: Sources, body: unknown): Promise<Answer>
}

const PATIENCE = 2000

/** Makes a verb of the engine's protocol. A body is checked against the schema before it is answered. */
export function verb<Request extends object, Answer extends object>(
  schema: ObjectSchema<Request>,
  answer: (sources: Sources, request: ObjectSchema<Request>['__outputType']) => Promise<Answer>,
  patience = PATIENCE,
): Verb<Request, Answer> {
  return { schema, patience, answer: async (sources, body) => answer(sources, schema.validateSync(body, { strict: true })) }
}
