export { Random } from '../core/random'
