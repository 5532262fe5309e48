package app.schublade.web.accounts;

import app.schublade.core.place.Tone;
import app.schublade.mail.MailHost;
import app.schublade.store.Account;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What a user types to add an account. */
record AccountForm(
        @Nullable String address,
        @Nullable String password,
        @Nullable String name,
        @Nullable String code,
        @Nullable String host,
        @Nullable String port,
        @Nullable String encryption,
        @Nullable String login,
        @Nullable String aliases) {

    static final AccountForm EMPTY = new AccountForm(null, null, null, null, null, "993", "TLS", null, null);

    /**
     * The account as it can be added.
     *
     * @param position how many accounts there are already
     * @throws IllegalArgumentException with what is missing or wrong
     */
    Account.Draft draft(int position) {
        String address = need(this.address, "the address").toLowerCase(Locale.ROOT);
        if (!address.matches("[^@\\s]+@[^@\\s]+")) {
            throw new IllegalArgumentException("“%s” is not an address; it needs one @.".formatted(address));
        }
        String code = need(this.code, "a two-letter code").toUpperCase(Locale.ROOT);
        if (!code.matches("[A-Z0-9]{2}")) {
            throw new IllegalArgumentException("The code is two letters or digits, not “%s”.".formatted(code));
        }
        String login = this.login == null || this.login.isBlank() ? address : this.login.strip();
        return new Account.Draft(
                code,
                need(name, "a name for the account"),
                Tone.nth(position),
                address,
                aliasList(),
                Account.Hosts.imap(new MailHost(
                        need(host, "the mail server's name"),
                        portNumber(),
                        MailHost.Encryption.valueOf(need(encryption, "the encryption")),
                        login)),
                Account.Settings.USUAL,
                need(password, "the password"));
    }

    private List<String> aliasList() {
        String all = aliases == null ? "" : aliases;
        return Arrays.stream(all.split("[,\\s]+", -1))
                .filter(alias -> alias.contains("@"))
                .map(alias -> alias.toLowerCase(Locale.ROOT))
                .toList();
    }

    private int portNumber() {
        String digits = need(port, "the port").strip();
        if (!digits.matches("\\d{1,5}")) {
            throw new IllegalArgumentException("The port is a number, mostly 993, not “%s”.".formatted(digits));
        }
        return Integer.parseInt(digits);
    }

    private static String need(@Nullable String value, String what) {
        if (value == null || value.isBlank()) {
            throw new IllegalArgumentException("Please enter " + what + ".");
        }
        return value.strip();
    }
}
