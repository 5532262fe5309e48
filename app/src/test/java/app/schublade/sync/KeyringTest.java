package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.schublade.core.place.Tone;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailHost;
import app.schublade.mail.discovery.AuthorisationServer;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.mockito.Mock;
import org.mockito.junit.jupiter.MockitoExtension;

@ExtendWith(MockitoExtension.class)
class KeyringTest {
    private static final AuthorisationServer SERVER =
            new AuthorisationServer("https://in.example/ask", "https://in.example/token", "mail");
    private static final Account ACCOUNT = account(7);

    @Mock
    private AccountStore accounts;

    @Mock
    private SignIn signIn;

    private Keyring keyring;

    @BeforeEach
    void keptIsAPermission() {
        when(accounts.secret(7)).thenReturn(new Grant(SERVER, "first").text());
        keyring = new Keyring(accounts, signIn);
    }

    private static Account account(long id) {
        MailHost host = new MailHost("imap.quay.example", 993, MailHost.Encryption.TLS, "tilda@quay.example");
        return new Account(
                id,
                1,
                "QU",
                "Quay",
                Tone.PETROL,
                "tilda@quay.example",
                Instant.EPOCH,
                List.of(),
                new Account.Hosts(Account.Protocol.IMAP, host, null, Credentials.CredentialKind.TOKEN),
                Account.Settings.USUAL,
                new Account.Status(Account.AccountState.NEW, null, Instant.EPOCH, null, 0, 0, true),
                1);
    }

    private static SignIn.Tokens tokens(String access, @Nullable String refresh, int seconds) {
        return new SignIn.Tokens(access, refresh, Instant.now().plusSeconds(seconds));
    }

    @Test
    void aTokenServesUntilShortlyBeforeItsEnd() throws Exception {
        when(signIn.refresh(any())).thenReturn(tokens("long", null, 3600), tokens("next", null, 3600));
        assertThat(keyring.of(ACCOUNT).secret()).isEqualTo("long");
        assertThat(keyring.of(ACCOUNT).secret()).isEqualTo("long");
        verify(accounts, never()).renewSecret(anyLong(), any());
    }

    @Test
    void aTokenThatIsAboutToEndIsRenewedBeforeItDoes() throws Exception {
        when(signIn.refresh(any())).thenReturn(tokens("short", null, 30), tokens("next", null, 3600));
        assertThat(keyring.of(ACCOUNT).secret()).isEqualTo("short");
        assertThat(keyring.of(ACCOUNT).secret()).isEqualTo("next");
    }

    @Test
    void aNewPermissionTakesThePlaceOfTheOldOne() throws Exception {
        when(signIn.refresh(any())).thenReturn(tokens("access", "second", 3600));
        keyring.of(ACCOUNT);
        verify(accounts).renewSecret(7, new Grant(SERVER, "second").text());
    }

    @Test
    void aTokenThatIsRefusedIsReplacedOnceAndNotAgainAndAgain() throws Exception {
        when(signIn.refresh(any())).thenReturn(tokens("one", null, 3600), tokens("two", null, 3600));
        keyring.of(ACCOUNT);
        assertThat(keyring.anotherMayDo(7)).as("it was fresh").isFalse();
        keyring.of(ACCOUNT);
        keyring.of(ACCOUNT);
        assertThat(keyring.anotherMayDo(7)).as("it had served before").isTrue();
    }
}
