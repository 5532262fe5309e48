package app.schublade.core.sieve;

import java.util.List;
import java.util.stream.Collectors;

/** Writes commands as a script that people can read. */
final class SievePrinter {
    private static final int WIDTH = 100;
    private static final String STEP = "    ";

    private SievePrinter() {}

    static String print(List<Command> commands) {
        StringBuilder script = new StringBuilder();
        print(commands, "", script);
        return script.toString();
    }

    private static void print(List<Command> commands, String indent, StringBuilder script) {
        for (Command command : commands) {
            if (!command.comment().isEmpty()) {
                script.append('\n')
                        .append(indent)
                        .append("# ")
                        .append(command.comment())
                        .append('\n');
            }
            script.append(indent).append(command.name());
            command.arguments().forEach(argument -> script.append(' ').append(print(argument)));
            if (command.test() == null) {
                script.append(";\n");
                continue;
            }
            script.append(' ').append(print(command.test(), indent)).append(" {\n");
            print(command.block(), indent + STEP, script);
            script.append(indent).append("}\n");
        }
    }

    private static String print(Argument argument) {
        if (argument instanceof Argument.Tag tag) {
            return ":" + tag.name();
        }
        if (argument instanceof Argument.Count number) {
            return String.valueOf(number.value());
        }
        List<String> values = ((Argument.Strings) argument).values();
        return values.size() == 1
                ? quoted(values.get(0))
                : values.stream().map(SievePrinter::quoted).collect(Collectors.joining(", ", "[", "]"));
    }

    private static String quoted(String value) {
        return '"' + value.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }

    private static String print(Test test, String indent) {
        StringBuilder text = new StringBuilder(test.name());
        test.arguments().forEach(argument -> text.append(' ').append(print(argument)));
        if (test.is("not")) {
            return text.append(' ').append(print(test.tests().get(0), indent)).toString();
        }
        if (test.tests().isEmpty()) {
            return text.toString();
        }
        List<String> tests =
                test.tests().stream().map(one -> print(one, indent + STEP)).toList();
        String between = tests.stream().mapToInt(String::length).sum() > WIDTH ? ",\n" + indent + STEP : ", ";
        return text.append(" (").append(String.join(between, tests)).append(')').toString();
    }
}
