import ts from 'typescript';

/** One change to a source text that a good test notices. */
export interface Mutation {
  readonly at: number;
  readonly end: number;
  readonly instead: string;
  readonly what: string;
}

/** From here on a figure is a measure, not a count. */
const LARGE = 100;

const TURNED: Partial<Record<ts.SyntaxKind, string>> = {
  [ts.SyntaxKind.LessThanToken]: '<=',
  [ts.SyntaxKind.LessThanEqualsToken]: '<',
  [ts.SyntaxKind.GreaterThanToken]: '>=',
  [ts.SyntaxKind.GreaterThanEqualsToken]: '>',
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: '!==',
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: '===',
  [ts.SyntaxKind.AmpersandAmpersandToken]: '||',
  [ts.SyntaxKind.BarBarToken]: '&&',
  [ts.SyntaxKind.PlusToken]: '-',
  [ts.SyntaxKind.MinusToken]: '+',
};

/** Every place where a comparison can be turned, a bound moved, a constant changed, a branch removed. */
export function mutationsOf(name: string, text: string): Mutation[] {
  const file = ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true);
  const found: Mutation[] = [];
  const add = (node: ts.Node, instead: string, what: string): void =>
    void found.push({ at: node.getStart(file), end: node.getEnd(), instead, what });
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const instead = TURNED[node.operatorToken.kind];
      // Texts put together say nothing that is worth a test of its own.
      const isText = ts.isStringLiteralLike(node.left) || ts.isStringLiteralLike(node.right);
      if (instead !== undefined && !(isText && /^[+-]$/.test(instead)))
        add(node.operatorToken, instead, `${node.operatorToken.getText(file)} becomes ${instead}`);
    }
    if (ts.isNumericLiteral(node)) {
      const figure = node.getText(file);
      // A bound of a few is moved by one; of a time or a frequency one more would be no change at all.
      const isLarge = Number(node.text) >= LARGE;
      const more = isLarge ? `(${figure} * 2)` : node.text === '0' ? '1' : `(${figure} + 1)`;
      add(node, more, `${figure} becomes ${isLarge ? 'twice as much' : 'one more'}`);
    }
    if (ts.isIfStatement(node)) add(node.expression, 'false', 'a branch is never taken');
    if (ts.isConditionalExpression(node)) add(node.condition, 'true', 'the second of two is never taken');
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

export const mutated = (text: string, { at, end, instead }: Mutation): string =>
  text.slice(0, at) + instead + text.slice(end);
