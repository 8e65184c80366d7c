import { connect } from '../db/database';
import { grantServing } from '../db/grants';
import { migrate } from '../db/migrate';
import { makeServingRole, serverUrl, servingUrlOf, templateName, urlOf } from './database';

const server = connect(serverUrl(), { max: 1, patient: true });
await server.query(`DROP DATABASE IF EXISTS ${templateName} WITH (FORCE)`);
await server.query(`CREATE DATABASE ${templateName}`);
await server.query(`ALTER DATABASE ${templateName} SET synchronous_commit = off`);
await makeServingRole(server);
await server.end();
const template = connect(urlOf(templateName), { max: 1, patient: true });
await migrate(template);
await grantServing(template, servingUrlOf(templateName));
await template.end();
