import { migrateDatabase } from './store/migrate';

await migrateDatabase(process.env.DATABASE_URL!);
