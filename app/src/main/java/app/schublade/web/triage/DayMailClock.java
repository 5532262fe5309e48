package app.schublade.web.triage;

import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.message.Address;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.Zones;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.triage.DayMailStore;
import app.schublade.store.triage.DayMailStore.DayMail;
import app.schublade.web.frame.Dates;
import app.schublade.web.triage.DaySheets.DaySheet;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import java.util.Locale;
import java.util.TimeZone;
import org.springframework.context.i18n.LocaleContextHolder;
import org.springframework.context.i18n.SimpleTimeZoneAwareLocaleContext;
import org.springframework.stereotype.Component;

/** Sends the day sheet to those who want it by mail, at their hours; a sheet with nothing on it is not sent. */
@Component
class DayMailClock extends ScheduledWork {
    private final DayMailStore mails;
    private final DaySheets sheets;
    private final AccountStore accounts;
    private final OutgoingStore outgoing;
    private final Zones zones;
    private final Dates dates;

    DayMailClock(
            DayMailStore mails,
            DaySheets sheets,
            AccountStore accounts,
            OutgoingStore outgoing,
            Zones zones,
            Dates dates,
            Background background) {
        super(background, "day sheets by mail", Duration.ofSeconds(30));
        this.mails = mails;
        this.sheets = sheets;
        this.accounts = accounts;
        this.outgoing = outgoing;
        this.zones = zones;
        this.dates = dates;
    }

    @Override
    protected void go() {
        each(mails.due(), DayMail::userId, one -> mails.once(one, () -> send(one)));
    }

    private void send(DayMail one) {
        LocaleContextHolder.setLocaleContext(
                new SimpleTimeZoneAwareLocaleContext(Locale.ENGLISH, TimeZone.getTimeZone(zones.of(one.userId()))));
        try {
            DaySheet sheet = sheets.of(one.userId(), dates);
            if (!sheet.isEmpty()) {
                accounts.byId(one.userId(), one.account()).ifPresent(account -> send(account, sheet));
            }
        } finally {
            LocaleContextHolder.resetLocaleContext();
        }
    }

    private void send(Account account, DaySheet sheet) {
        OutgoingMessage message = OutgoingMessage.toSelf(
                new Address("Schublade", account.address()),
                "Day sheet, " + dates.longDay(dates.today()),
                DayLetter.of(sheet, dates));
        long id = outgoing.begin(account.userId(), account.id(), message, null);
        outgoing.send(account.userId(), id, message, dates.now(), dates.now());
    }
}
