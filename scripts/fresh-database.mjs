/** Name of the database that is migrated once; what tests need is copied from it. */
export const TEMPLATE = 'dial_template';

/**
 * Makes a database of this name, new, as a copy of the template, and gives its address.
 * @param {string} url address of any other database of the same server
 * @param {string} name letters, digits and underscores
 * @param {string} template
 * @returns {Promise<string>}
 */
export async function freshDatabase(url, name, template = TEMPLATE) {
  // Packages may have been installed only a moment ago.
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
    await client.query(`CREATE DATABASE ${name} TEMPLATE ${template}`);
  } finally {
    await client.end();
  }
  return url.replace(/\/[^/]*$/, `/${name}`);
}
