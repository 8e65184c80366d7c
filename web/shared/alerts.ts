import { alertCount } from '@larder/contract/alerts';
import { api, read } from './api';

const alerts = api.injectEndpoints({ endpoints: (build) => ({ alertCount: read(build, alertCount) }) });
export const { useAlertCountQuery } = alerts;
