export { bomsInUse } from './inUse';
export { createWorkOrder } from './orders';
export { goingWork } from './taking';
export { fitWork, workOfSale } from './toOrder';
