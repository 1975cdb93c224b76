export default { singleQuote: true, printWidth: 110, trailingComma: 'all' };
