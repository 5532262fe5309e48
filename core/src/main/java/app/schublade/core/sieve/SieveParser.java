package app.schublade.core.sieve;

import app.schublade.core.sieve.Scanner.Token;
import app.schublade.core.sieve.Scanner.TokenKind;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Reads the grammar of Sieve (RFC 5228, section 8.2), whatever the commands and tests are called. */
final class SieveParser {
    /** How long a script may be, in characters. */
    static final int MAX_LENGTH = 1_000_000;

    private static final int MAX_DEPTH = 30;

    private final Scanner scanner;
    private Token token;

    private SieveParser(String script) throws SieveException {
        scanner = new Scanner(script);
        token = scanner.next();
    }

    /** @throws SieveException if this is no Sieve, or too much of it */
    static List<Command> parse(String script) throws SieveException {
        if (script.length() > MAX_LENGTH) {
            throw new SieveException(
                    1, "the script has %,d signs; %,d is the limit.".formatted(script.length(), MAX_LENGTH));
        }
        SieveParser parser = new SieveParser(script);
        List<Command> commands = parser.commands(0);
        if (parser.token.kind() != TokenKind.END) {
            throw parser.unexpected("a command");
        }
        return commands;
    }

    private SieveException unexpected(String wanted) {
        return new SieveException(token.line(), "here “%s” stands instead of %s.".formatted(token.text(), wanted));
    }

    private Token take() throws SieveException {
        Token taken = token;
        token = scanner.next();
        return taken;
    }

    private void take(String sign) throws SieveException {
        if (!token.is(sign)) {
            throw unexpected("“" + sign + "”");
        }
        take();
    }

    private void checkDepth(int depth) throws SieveException {
        if (depth > MAX_DEPTH) {
            throw new SieveException(token.line(), "more than %d lie inside each other here.".formatted(MAX_DEPTH));
        }
    }

    private List<Command> commands(int depth) throws SieveException {
        checkDepth(depth);
        List<Command> commands = new ArrayList<>();
        while (token.kind() == TokenKind.WORD) {
            String comment = scanner.comment();
            Token name = take();
            List<Argument> arguments = arguments();
            Test test = token.kind() == TokenKind.WORD ? test(depth + 1) : null;
            if (test == null && (name.text().equals("if") || name.text().equals("elsif"))) {
                throw unexpected("a test");
            }
            commands.add(new Command(name.text(), arguments, test, blockOrEnd(depth), comment, name.line()));
        }
        return commands;
    }

    private List<Command> blockOrEnd(int depth) throws SieveException {
        if (token.is(";")) {
            take();
            return List.of();
        }
        take("{");
        List<Command> block = commands(depth + 1);
        take("}");
        return block;
    }

    private List<Argument> arguments() throws SieveException {
        List<Argument> arguments = new ArrayList<>();
        for (Argument next = argument(); next != null; next = argument()) {
            arguments.add(next);
        }
        return arguments;
    }

    private @Nullable Argument argument() throws SieveException {
        return switch (token.kind()) {
            case TAG -> new Argument.Tag(take().text());
            case NUMBER -> new Argument.Count(Long.parseLong(take().text()));
            case STRING -> Argument.text(take().text());
            case SIGN -> token.is("[") ? strings() : null;
            case WORD, END -> null;
        };
    }

    private Argument strings() throws SieveException {
        List<String> values = new ArrayList<>();
        do {
            take();
            if (token.kind() != TokenKind.STRING) {
                throw unexpected("a string");
            }
            values.add(take().text());
        } while (token.is(","));
        take("]");
        return Argument.text(values);
    }

    private Test test(int depth) throws SieveException {
        checkDepth(depth);
        if (token.kind() != TokenKind.WORD) {
            throw unexpected("a test");
        }
        String name = take().text();
        List<Argument> arguments = arguments();
        List<Test> tests = new ArrayList<>();
        if (token.is("(")) {
            do {
                take();
                tests.add(test(depth + 1));
            } while (token.is(","));
            take(")");
        } else if (token.kind() == TokenKind.WORD) {
            tests.add(test(depth + 1));
        }
        boolean fits = name.equals("not") ? tests.size() == 1 : !tests.isEmpty() || !isOfTests(name);
        if (!fits) {
            throw unexpected("a test after “" + name + "”");
        }
        return new Test(name, arguments, tests);
    }

    private static boolean isOfTests(String name) {
        return name.equals("allof") || name.equals("anyof");
    }
}
