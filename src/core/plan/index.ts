export * from './schema';
export * from './operations';
export * from './policy';
export * from './patch';
export * from './remedy';
export * from './matrix';
export * from './assign';
export * from './bounds';
