export { goingWork } from './taking';
