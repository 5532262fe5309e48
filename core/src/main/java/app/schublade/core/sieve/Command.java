package app.schublade.core.sieve;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A command of a script: an action, or a control structure with its block.
 *
 * @param name in lower case
 * @param test of {@code if} and {@code elsif}
 * @param comment the last line of comment before it, empty if there is none
 * @param line where it begins in the script, from 1; 0 if it was not read from one
 */
record Command(
        String name, List<Argument> arguments, @Nullable Test test, List<Command> block, String comment, int line) {
    Command {
        arguments = List.copyOf(arguments);
        block = List.copyOf(block);
    }

    static Command of(String name, Argument... arguments) {
        return new Command(name, List.of(arguments), null, List.of(), "", 0);
    }

    static Command when(Test test, List<Command> block) {
        return new Command("if", List.of(), test, block, "", 0);
    }

    Command commented(String words) {
        return new Command(name, arguments, test, block, words, line);
    }

    boolean is(String other) {
        return name.equals(other);
    }

    /** The same command wherever it stands. */
    Command anywhere() {
        return new Command(
                name, arguments, test, block.stream().map(Command::anywhere).toList(), "", 0);
    }

    boolean has(String tag) {
        return arguments.contains(Argument.tag(tag));
    }

    /** The values of the last string or list of strings among the arguments; none if there is none. */
    List<String> texts() {
        List<String> last = new ArrayList<>();
        for (Argument argument : arguments) {
            if (argument instanceof Argument.Strings strings) {
                last = strings.values();
            }
        }
        return last;
    }
}
