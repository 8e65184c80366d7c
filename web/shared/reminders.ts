import * as contract from '@larder/contract/reminders';
import { api, read, write } from './api';

/** Reminders of days, and one's own calendar of them. */
const reminderApi = api.injectEndpoints({
  endpoints: (build) => ({
    reminders: read(build, contract.remindersOf),
    setReminder: write(build, contract.setReminder),
    dropReminder: write(build, contract.dropReminder),
    myCalendar: read(build, contract.myCalendar),
    newCalendar: write(build, contract.newCalendar),
    endCalendar: write(build, contract.endCalendar),
  }),
});
export const { useRemindersQuery, useSetReminderMutation, useDropReminderMutation, useMyCalendarQuery, useNewCalendarMutation, useEndCalendarMutation } =
  reminderApi;
