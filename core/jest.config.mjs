export default {
  testEnvironment: 'node',
  testTimeout: 240_000,
  // Jest leaves one processor free by itself; on two the long property tests would stand in one row.
  maxWorkers: '100%',
  testMatch: ['<rootDir>/test/**/*.test.ts'],
  transform: {
    '^.+\\.ts$': [
      '@swc/jest',
      { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
    ],
  },
};
