// Type errors, and messages that are put into a text as they are: `${message}`, message + "", list.join() would show
// “[object Object]”, which the compiler lets pass. One program for both: the types are worked out once.
// Exit code 1 where there is either.
import ts from "typescript";

const host = { ...ts.sys, onUnRecoverableConfigFileDiagnostic: () => process.exit(2) };
const config = ts.getParsedCommandLineOfConfigFile("tsconfig.json", {}, host);
const program = ts.createProgram(config.fileNames, config.options);
const types = program.getTypeChecker();

const isMessage = (type) =>
  (type.isUnion() ? type.types : [type]).some(
    (part) => part.flags & ts.TypeFlags.Object && part.getProperty("params") && part.getProperty("id"),
  );
const messageAt = (node) => isMessage(types.getTypeAtLocation(node));

function shown(node) {
  if (ts.isTemplateSpan(node)) return messageAt(node.expression);
  if (ts.isBinaryExpression(node) && node.operatorToken.kind === ts.SyntaxKind.PlusToken)
    return messageAt(node.left) || messageAt(node.right);
  if (!ts.isCallExpression(node)) return false;
  if (node.expression.getText() === "String") return node.arguments.some(messageAt);
  if (!ts.isPropertyAccessExpression(node.expression) || node.expression.name.text !== "join") return false;
  return (types.getTypeArguments(types.getTypeAtLocation(node.expression.expression)) ?? []).some(isMessage);
}

const wrong = ts.getPreEmitDiagnostics(program);
if (wrong.length) console.error(ts.formatDiagnosticsWithColorAndContext(wrong, ts.createCompilerHost(config.options)));

let count = 0;
function visit(file, node) {
  if (shown(node)) {
    const at = file.getLineAndCharacterOfPosition(node.getStart());
    console.error(`${file.fileName}:${at.line + 1}: a message without say(): ${node.getText().slice(0, 80)}`);
    count += 1;
  }
  ts.forEachChild(node, (child) => visit(file, child));
}
for (const file of program.getSourceFiles()) if (file.fileName.includes("/src/")) visit(file, file);
process.exit(count + wrong.length ? 1 : 0);
