package app.schublade.web.accounts;

import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import java.io.Serializable;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What a user types to add an account, beside its servers. */
record NewAccountForm(
        @Nullable String address,
        @Nullable String password,
        @Nullable String name,
        @Nullable String code,
        @Nullable String tone,
        @Nullable String importSince,
        @Nullable String keepOnServer)
        implements Serializable {
    private static final long serialVersionUID = 1L;

    static final NewAccountForm EMPTY = new NewAccountForm(null, null, null, null, null, null, "true");

    /** Proposes a name, a code and a colour that the other accounts do not have. */
    static NewAccountForm proposed(String address, Collection<Account> others) {
        String domain = address.substring(address.lastIndexOf('@') + 1);
        String label = domain.contains(".") ? domain.substring(0, domain.indexOf('.')) : domain;
        String name = label.substring(0, 1).toUpperCase(Locale.ROOT) + label.substring(1);
        Set<String> codes = others.stream().map(Account::code).collect(Collectors.toSet());
        Set<Tone> tones = others.stream().map(Account::tone).collect(Collectors.toSet());
        Tone tone = List.of(Tone.values()).stream()
                .filter(one -> !tones.contains(one))
                .findFirst()
                .orElse(Tone.nth(others.size()));
        return new NewAccountForm(address, null, name, code(label, codes), tone.name(), null, "true");
    }

    private static String code(String label, Set<String> taken) {
        String letters = label.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9]", "") + "X";
        for (String word : label.toUpperCase(Locale.ROOT).split("[^A-Z0-9]+", -1)) {
            // The beginnings of two words tell more than the first two letters.
            if (!word.isEmpty() && !label.toUpperCase(Locale.ROOT).startsWith(word)) {
                String initials = letters.substring(0, 1) + word.charAt(0);
                if (!taken.contains(initials)) {
                    return initials;
                }
            }
        }
        for (int i = 1; i < letters.length(); i++) {
            String code = "" + letters.charAt(0) + letters.charAt(i);
            if (!taken.contains(code)) {
                return code;
            }
        }
        return letters.substring(0, 1) + taken.size() % 10;
    }

    /** @throws InputProblem with what is missing or wrong */
    Account.Draft draft(Account.Hosts hosts, String secret) {
        return new Account.Draft(
                FormFields.code(code),
                FormFields.needed(name, "a name for the account"),
                FormFields.tone(tone),
                FormFields.address(address),
                List.of(),
                hosts,
                new Account.Settings("", FormFields.day(importSince), "true".equals(keepOnServer)),
                secret);
    }
}
