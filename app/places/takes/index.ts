export { Takes } from './Takes';
