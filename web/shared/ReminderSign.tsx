import AlarmIcon from '@mui/icons-material/AlarmOutlined';

/** Stands on whatever somebody is to be reminded of. */
export const ReminderSign = () => <AlarmIcon titleAccess="Somebody is reminded of it" sx={{ fontSize: 16, verticalAlign: 'text-bottom', marginLeft: 4 }} />;
