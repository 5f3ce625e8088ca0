export { Score } from './Score';
