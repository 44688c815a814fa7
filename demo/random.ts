export { Random } from '../core/rehearsal/random'
