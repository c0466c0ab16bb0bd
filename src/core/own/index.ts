export * from './menu';
export * from './palettes';
export * from './preferences';
