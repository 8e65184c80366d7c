import * as contract from '@larder/contract/reminders';
import type { Serve } from '../../http/route';
import { endCalendar, myCalendar, newCalendar } from './calendar';
import { dropReminder, remindersOf, setReminder } from './service';

export function reminderRoutes(serve: Serve): void {
  serve(contract.remindersOf, (act, { query }) => remindersOf(act, query));
  serve(contract.setReminder, (act, { body }) => setReminder(act, body));
  serve(contract.dropReminder, (act, { params }) => dropReminder(act, params.id));
  serve(contract.myCalendar, (act) => myCalendar(act));
  serve(contract.newCalendar, (act) => newCalendar(act));
  serve(contract.endCalendar, (act) => endCalendar(act));
}
