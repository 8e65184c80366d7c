import { connect } from '../db/database';
import { migrate } from '../db/migrate';
import { serverUrl, templateName, urlOf } from './database';

const server = connect(serverUrl(), 1);
await server.query(`DROP DATABASE IF EXISTS ${templateName} WITH (FORCE)`);
await server.query(`CREATE DATABASE ${templateName}`);
await server.query(`ALTER DATABASE ${templateName} SET synchronous_commit = off`);
await server.end();
const template = connect(urlOf(templateName), 1);
await migrate(template);
await template.end();
