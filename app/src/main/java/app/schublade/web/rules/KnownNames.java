package app.schublade.web.rules;

import app.schublade.core.message.Address;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.noise.ListsStore;
import app.schublade.store.user.PeopleStore;
import java.util.List;
import java.util.Locale;

/** Whom and what a user's mail is from, by the names that people and lists have in it. */
record KnownNames(PeopleStore people, ListsStore lists, long user) {
    private static final int MOST = 20;

    /**
     * The addresses of whoever is called so, or of the only one whose name has such a word.
     *
     * @throws InputProblem if nobody is, or several are
     */
    List<String> people(String name) {
        String wanted = name.strip().toLowerCase(Locale.ROOT);
        List<Address> like = people.like(user, wanted, MOST);
        List<Address> called = like.stream()
                .filter(one -> one.name().toLowerCase(Locale.ROOT).equals(wanted))
                .toList();
        if (!called.isEmpty()) {
            return keys(called);
        }
        if (like.stream().anyMatch(one -> one.key().endsWith("@" + wanted))) {
            return List.of(wanted); // A domain without a dot.
        }
        List<Address> withWord =
                like.stream().filter(one -> hasWord(one, wanted)).toList();
        List<String> names = withWord.stream().map(Address::name).distinct().toList();
        if (names.size() > 1) {
            throw new InputProblem("Several people are called “%s”: %s. Write which one, or an address."
                    .formatted(name.strip(), String.join(", ", names)));
        }
        if (names.isEmpty()) {
            throw new InputProblem(
                    "Nobody whose mail is here is called “%s”. Write an address (anna@wharf.example) or a domain (wharf.example)."
                            .formatted(name.strip()));
        }
        return keys(withWord);
    }

    private static List<String> keys(List<Address> all) {
        return all.stream().map(Address::key).distinct().toList();
    }

    private static boolean hasWord(Address one, String wanted) {
        return (" " + one.name().toLowerCase(Locale.ROOT) + " ").contains(" " + wanted + " ");
    }

    /** @throws InputProblem if no list whose mail is here is called so */
    List<String> lists(String name) {
        List<String> called = lists.called(user, name.strip());
        if (called.isEmpty()) {
            throw new InputProblem(
                    "No mailing list whose mail is here is called “%s”. Write its identifier (rowers.boats.example)."
                            .formatted(name.strip()));
        }
        return called;
    }
}
