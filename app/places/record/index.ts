export { Record } from './Record';
