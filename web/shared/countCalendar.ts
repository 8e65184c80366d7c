import { countCalendar } from '@larder/contract/counts';
import { api, read } from './api';

/** What is due to be counted, which Today tells as well. */
const calendarApi = api.injectEndpoints({ endpoints: (build) => ({ countCalendar: read(build, countCalendar) }) });
export const { useCountCalendarQuery } = calendarApi;
