package app.schublade.web.rules;

import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.format.MailWriter;
import app.schublade.core.message.Address;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FlagRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.TrayRef;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Makes effects of the lines that say in a form what is to be done. */
@Component
class ActionMaker {
    private static final int MAX_FORWARDED = 10;

    private final PlaceStore places;

    ActionMaker(PlaceStore places) {
        this.places = places;
    }

    /** Finds the places that effects name. */
    interface Finder {
        FolderRef folder(FolderPath path);

        LabelRef label(FolderPath path);

        CategoryRef category(String name);

        TrayRef tray(String name);

        FlagRef flag(String name);
    }

    /** Places that are not there yet are not made. */
    Finder known(long userId) {
        Places known = places.of(userId, null);
        return new Finder() {
            @Override
            public FolderRef folder(FolderPath path) {
                return known.folder(path).map(Places.Folder::ref).orElse(new FolderRef(FolderRef.NEW, path));
            }

            @Override
            public LabelRef label(FolderPath path) {
                return known.label(path).map(Places.Label::ref).orElse(new LabelRef(FolderRef.NEW, path));
            }

            @Override
            public CategoryRef category(String name) {
                return known.category(name).map(Places.Category::ref).orElse(new CategoryRef(FolderRef.NEW, name));
            }

            @Override
            public TrayRef tray(String name) {
                return ActionMaker.tray(known, name);
            }

            @Override
            public FlagRef flag(String name) {
                return ActionMaker.flag(known, name);
            }
        };
    }

    /** Folders, labels and categories that are not there yet are made. */
    Finder making(long userId) {
        return new Finder() {
            @Override
            public FolderRef folder(FolderPath path) {
                return places.folder(userId, path);
            }

            @Override
            public LabelRef label(FolderPath path) {
                return places.label(userId, path);
            }

            @Override
            public CategoryRef category(String name) {
                return places.category(userId, name);
            }

            @Override
            public TrayRef tray(String name) {
                return ActionMaker.tray(places.of(userId, null), name);
            }

            @Override
            public FlagRef flag(String name) {
                return ActionMaker.flag(places.of(userId, null), name);
            }
        };
    }

    /** Trays are few, and made on their page: a name that is mistyped is no new one. */
    private static TrayRef tray(Places known, String name) {
        return named(known.trays(), Places.Tray::name, "tray", name).ref();
    }

    /** So are flags. */
    private static FlagRef flag(Places known, String name) {
        return named(known.flags(), Places.OwnFlag::name, "flag", name).ref();
    }

    private static <T> T named(List<T> all, Function<T, String> nameOf, String what, String wanted) {
        return all.stream()
                .filter(one -> nameOf.apply(one).equalsIgnoreCase(wanted))
                .findFirst()
                .orElseThrow(() -> new InputProblem(
                        all.isEmpty()
                                ? "There is no %s “%s”, and no other; add it under Settings, %ss."
                                        .formatted(
                                                what,
                                                wanted,
                                                what.substring(0, 1).toUpperCase(Locale.ROOT) + what.substring(1))
                                : "There is no %s “%s”; there are: %s."
                                        .formatted(
                                                what,
                                                wanted,
                                                all.stream().map(nameOf).collect(Collectors.joining(", ")))));
    }

    static Effect effect(RuleForm.ActionLine doing, Finder finder) {
        String text = doing.text().strip();
        return switch (doing.deed()) {
            case FILE -> new Effect.FileInto(finder.folder(FolderPath.parse(text)));
            case COPY -> new Effect.CopyInto(finder.folder(FolderPath.parse(text)));
            case ARCHIVE -> new Effect.FileInto(finder.folder(SpecialUse.ARCHIVE.path()));
            case DELETE -> new Effect.FileInto(finder.folder(SpecialUse.TRASH.path()));
            case LABEL -> new Effect.SetLabel(finder.label(FolderPath.parse(text)), true);
            case UNLABEL -> new Effect.SetLabel(finder.label(FolderPath.parse(text)), false);
            case CATEGORY -> new Effect.Categorise(finder.category(text));
            case CLEAR_CATEGORY -> new Effect.Categorise(null);
            case READ -> new Effect.MarkRead(true);
            case UNREAD -> new Effect.MarkRead(false);
            case FLAG -> new Effect.Flag(true);
            case FLAG_AS -> new Effect.FlagAs(finder.flag(text));
            case UNFLAG -> new Effect.Flag(false);
            case DUE -> new Effect.Due(DueDate.parse(text));
            case TRAY -> new Effect.PutInto(finder.tray(text));
            case TICKLER -> new Effect.Tickle(finder.folder(SpecialUse.TICKLER.path()), DueDate.parse(text));
            case FORWARD -> forward(text, false);
            case FORWARD_ATTACHED -> forward(text, true);
            case ANSWER -> new Effect.Answer(lines(text));
            case ANSWER_AT_ONCE -> new Effect.AnswerAtOnce(lines(text));
            case AWAIT -> awaited(text);
            case NOTIFY -> new Effect.Notify(false);
            case NOTIFY_ALOUD -> new Effect.Notify(true);
        };
    }

    private static Effect awaited(String text) {
        DueDate by = DueDate.parse(text);
        if (!(by instanceof DueDate.After)) {
            throw new InputProblem("Say after how many days: 3 days, or 5 working days.");
        }
        return new Effect.AwaitAnswer(by);
    }

    /** Addresses, and after the first new line the text above what is forwarded. */
    private static Effect forward(String text, boolean attached) {
        String[] parts = lines(text).split("\n", 2);
        List<Address> to = MailWriter.addresses(parts[0]);
        if (to.size() > MAX_FORWARDED) {
            throw new InputProblem("A rule forwards to at most %d addresses.".formatted(MAX_FORWARDED));
        }
        return new Effect.Forward(MailWriter.typed(to), attached, parts.length < 2 ? "" : parts[1]);
    }

    /** The text of a field of one line. */
    private static String lines(String text) {
        return text.replaceAll("\\s*(?<!:)//\\s*", "\n");
    }
}
