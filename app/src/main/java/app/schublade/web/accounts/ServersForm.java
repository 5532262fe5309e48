package app.schublade.web.accounts;

import app.schublade.core.problem.InputProblem;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailHost;
import app.schublade.mail.discovery.Probe;
import app.schublade.mail.discovery.Service;
import app.schublade.store.account.Account;
import app.schublade.web.frame.Choice;
import java.io.Serializable;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * The servers of an account as a user types or confirms them.
 *
 * @param pin the fingerprint of a certificate that nobody vouches for and the user trusts
 * @param plainAgreed whether the user agrees to a connection without encryption
 * @param outHost blank if nothing is to be sent from this account
 */
record ServersForm(
        @Nullable String protocol,
        @Nullable String host,
        @Nullable String port,
        @Nullable String encryption,
        @Nullable String login,
        @Nullable String pin,
        @Nullable Boolean plainAgreed,
        @Nullable String outHost,
        @Nullable String outPort,
        @Nullable String outEncryption,
        @Nullable String outLogin,
        @Nullable String outPin,
        @Nullable Boolean outPlainAgreed)
        implements Serializable {
    private static final long serialVersionUID = 1L;

    static final ServersForm EMPTY =
            new ServersForm("IMAP", null, "993", "TLS", null, null, false, null, "465", "TLS", null, null, false);

    /** What a search found; empty fields where nothing answered. */
    static ServersForm of(Probe.ProbedHosts found) {
        Probe.ProbeOutcome in = found.receiving();
        Probe.ProbeOutcome out = found.sending();
        return of(
                in != null && in.service() == Service.POP3 ? Account.Protocol.POP3 : Account.Protocol.IMAP,
                in == null ? null : in.host(),
                out == null ? null : out.host());
    }

    static ServersForm of(Account.Hosts hosts) {
        return of(hosts.protocol(), hosts.receiving(), hosts.sending());
    }

    private static ServersForm of(Account.Protocol protocol, @Nullable MailHost in, @Nullable MailHost out) {
        return new ServersForm(
                protocol.name(),
                in == null ? null : in.host(),
                in == null ? EMPTY.port : String.valueOf(in.port()),
                in == null ? EMPTY.encryption : in.encryption().name(),
                in == null ? null : in.login(),
                in == null ? null : in.pin(),
                in != null && in.plainAgreed(),
                out == null ? null : out.host(),
                out == null ? EMPTY.outPort : String.valueOf(out.port()),
                out == null ? EMPTY.outEncryption : out.encryption().name(),
                out == null ? null : out.login(),
                out == null ? null : out.pin(),
                out != null && out.plainAgreed());
    }

    /**
     * The servers as they can be tried.
     *
     * @throws InputProblem with what is missing or wrong
     */
    Account.Hosts hosts(String address, Credentials.CredentialKind proof) {
        MailHost in = host(
                FormFields.needed(host, "the mail server's name"),
                port,
                encryption,
                login,
                address,
                pin,
                Boolean.TRUE.equals(plainAgreed));
        String sending = FormFields.filled(outHost);
        MailHost out = sending == null
                ? null
                : host(sending, outPort, outEncryption, outLogin, address, outPin, Boolean.TRUE.equals(outPlainAgreed));
        return new Account.Hosts(
                Choice.of(Account.Protocol.class, FormFields.needed(protocol, "how mail is received")), in, out, proof);
    }

    private static MailHost host(
            String host,
            @Nullable String port,
            @Nullable String encryption,
            @Nullable String login,
            String address,
            @Nullable String pin,
            boolean agreed) {
        String digits = FormFields.needed(port, "the port");
        if (!digits.matches("\\d{1,5}")) {
            throw new InputProblem("The port is a number, mostly 993, not “%s”.".formatted(digits));
        }
        return new MailHost(
                host.toLowerCase(Locale.ROOT),
                Integer.parseInt(digits),
                Choice.of(MailHost.Encryption.class, FormFields.needed(encryption, "the encryption")),
                java.util.Objects.requireNonNullElse(FormFields.filled(login), address),
                FormFields.filled(pin),
                agreed);
    }
}
