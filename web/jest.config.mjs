export default {
  testEnvironment: '<rootDir>/test/environment.mjs',
  testTimeout: 30_000,
  testMatch: ['<rootDir>/test/**/*.test.{ts,tsx}'],
  moduleNameMapper: { '\\.css$': '<rootDir>/test/nothing.cjs', '\\?(worker|url)$': '<rootDir>/test/nothing.cjs' },
  transform: {
    '^.+\\.(ts|tsx)$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
          target: 'es2022',
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: ['/node_modules/(?!@rackle/)'],
};
