export { sendRoundUps, watchAll, watchSome } from './watch';
