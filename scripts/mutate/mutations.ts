/** Small changes that could be made to a file, and a file that holds some of them behind a switch. */
import ts from 'typescript';

export interface Mutation {
  readonly file: string;
  readonly from: number;
  readonly to: number;
  /** What stands there instead. */
  readonly text: string;
  /** The expression it lies in, which is chosen or not as a whole. */
  readonly whole: readonly [from: number, to: number];
}

const SWAPS: Readonly<Record<string, string>> = {
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '+': '-',
  '-': '+',
  '*': '/',
  '/': '*',
  '&&': '||',
  '||': '&&',
  '===': '!==',
  '!==': '===',
};

const isText = (node: ts.Expression): boolean =>
  ts.isStringLiteralLike(node) ||
  ts.isTemplateExpression(node) ||
  (ts.isBinaryExpression(node) && (isText(node.left) || isText(node.right)));

/** Numbers of tables, and those that something was tuned to, are what they are: a little more or less is no mistake. */
function isTuned(node: ts.Node): boolean {
  const signed = ts.isPrefixUnaryExpression(node.parent) ? node.parent : node;
  const { parent } = signed;
  return (
    ts.isVariableDeclaration(parent) ||
    ts.isPropertyAssignment(parent) ||
    ts.isPropertyDeclaration(parent) ||
    ts.isArrayLiteralExpression(parent)
  );
}

/** Every place of a file where something small can be changed: a sign, a bound, a condition, an index. */
export function mutationsOf(file: string, code: string): Mutation[] {
  const source = ts.createSourceFile(file, code, ts.ScriptTarget.Latest, true);
  const out: Mutation[] = [];
  const put = (whole: ts.Node, from: number, to: number, text: string) =>
    out.push({ file, from, to, text, whole: [whole.getStart(), whole.getEnd()] });
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const { operatorToken: op } = node;
      const swap = SWAPS[op.getText()];
      if (swap && !(op.getText() === '+' && isText(node))) put(node, op.getStart(), op.getEnd(), swap);
    } else if (ts.isConditionalExpression(node)) {
      const { condition } = node;
      put(condition, condition.getStart(), condition.getEnd(), `!(${condition.getText()})`);
    } else if (ts.isNumericLiteral(node)) {
      if (!isTuned(node)) put(node, node.getStart(), node.getEnd(), String(Number(node.text) + 1));
    } else if (
      ts.isPrefixUnaryExpression(node) &&
      (node.operator === ts.SyntaxKind.MinusToken || node.operator === ts.SyntaxKind.ExclamationToken)
    )
      put(node, node.getStart(), node.operand.getStart(), '');
    ts.forEachChild(node, visit);
  };
  visit(source);
  return out;
}

/**
 * The code of a file with some of its mutations in it, each by its number. A module that holds them tells which of them it came by, and
 * does the one that is switched on: `globalThis.mutation`, which `watch.mjs` sets before the module is loaded.
 */
export function switched(code: string, mutations: readonly (readonly [number, Mutation])[]): string {
  // Those around come before those within.
  const sorted = [...mutations].sort(([, a], [, b]) => a.whole[0] - b.whole[0] || b.whole[1] - a.whole[1]);
  const render = (from: number, to: number, within: readonly (readonly [number, Mutation])[]): string => {
    let out = '';
    let at = from;
    for (let i = 0; i < within.length;) {
      const [number, { whole, text, ...m }] = within[i]!;
      let end = i + 1;
      while (end < within.length && within[end]![1].whole[0] < whole[1]) end++;
      const changed = code.slice(whole[0], m.from) + text + code.slice(m.to, whole[1]);
      const usual = render(whole[0], whole[1], within.slice(i + 1, end));
      out += `${code.slice(at, whole[0])}((MUTATION.met[${number}] = 1, MUTATION.on === ${number}) ? (${changed}) : (${usual}))`;
      at = whole[1];
      i = end;
    }
    return out + code.slice(at, to);
  };
  return `const MUTATION = globalThis.mutation;${render(0, code.length, sorted)}`;
}
