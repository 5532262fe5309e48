package app.schublade.core.message;

import app.schublade.core.problem.InputProblem;
import java.util.Arrays;
import java.util.stream.Collectors;

/** Something that is so of a message, or is not. */
public enum Trait {
    TO_ME("addressed to me"),
    ONLY_COPIED("only copied to me"),
    TO_ME_ALONE("addressed to me alone"),
    NOT_ADDRESSED("neither addressed nor copied to me"),
    LIST("from a mailing list"),
    AUTOMATED("automated mail"),
    ANSWER("an answer to something I sent"),
    KEY_PERSON("from a key person"),
    KNOWN_SENDER("from somebody known"),
    NEW_SENDER("from somebody never seen before"),
    ATTACHMENT("has an attachment"),
    IMPORTANT("marked important"),
    UNIMPORTANT("marked unimportant"),
    PERSONAL("marked personal"),
    PRIVATE("marked private"),
    CONFIDENTIAL("marked confidential");

    private final String words;

    Trait(String words) {
        this.words = words;
    }

    /**
     * The trait that these words name.
     *
     * @throws InputProblem with a sentence for the user if there is none
     */
    public static Trait of(String words) {
        return Arrays.stream(values())
                .filter(trait -> trait.words.equalsIgnoreCase(words.strip()))
                .findFirst()
                .orElseThrow(() -> new InputProblem("“%s” is not known of a message; possible are: %s."
                        .formatted(
                                words, Arrays.stream(values()).map(Trait::words).collect(Collectors.joining(", ")))));
    }

    /** As part of a sentence. */
    public String words() {
        return words;
    }
}
