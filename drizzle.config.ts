import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'mysql',
  schema: './src/server/store/schema/*.ts',
  out: './src/server/store/migrations',
});
