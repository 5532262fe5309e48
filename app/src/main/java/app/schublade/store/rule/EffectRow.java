package app.schublade.store.rule;

import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.store.place.Places;
import java.sql.ResultSet;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * An effect of a rule or a routine as a row.
 *
 * @param place the id of its folder, label, category, tray or flag, or null
 * @param detail a date or a text, or null
 * @param recipients to whom something is forwarded, or null
 */
record EffectRow(
        Kind kind,
        @Nullable Long place,
        boolean on,
        @Nullable String detail,
        @Nullable String recipients) {

    /** How an effect is called in the database, and which column says where. */
    private enum Kind {
        FILE("folder_id"),
        COPY("folder_id"),
        TICKLE("folder_id"),
        LABEL("label_id"),
        CATEGORY("category_id"),
        TRAY("tray_id"),
        READ(null),
        FLAG(null),
        FLAG_AS("flag_id"),
        DUE(null),
        ANSWER(null),
        FORWARD(null),
        ANSWER_AT_ONCE(null),
        AWAIT(null),
        NOTIFY(null);

        private final @Nullable String column;

        Kind(@Nullable String column) {
            this.column = column;
        }

        EffectRow row(@Nullable Long place, boolean on, @Nullable String detail) {
            return new EffectRow(this, place, on, detail, null);
        }

        EffectRow at(long place) {
            return row(place, true, null);
        }

        EffectRow turned(boolean on) {
            return row(null, on, null);
        }

        EffectRow saying(String detail) {
            return row(null, true, detail);
        }
    }

    static EffectRow of(Effect effect) {
        return effect.accept(ROWS);
    }

    private static final Effect.EffectVisitor<EffectRow, RuntimeException> ROWS = new Effect.EffectVisitor<>() {
        @Override
        public EffectRow fileInto(Effect.FileInto file) {
            return Kind.FILE.at(file.folder().id());
        }

        @Override
        public EffectRow copyInto(Effect.CopyInto copy) {
            return Kind.COPY.at(copy.folder().id());
        }

        @Override
        public EffectRow tickle(Effect.Tickle tickle) {
            return Kind.TICKLE.row(tickle.tickler().id(), true, tickle.back().words());
        }

        @Override
        public EffectRow label(Effect.SetLabel label) {
            return Kind.LABEL.row(label.label().id(), label.on(), null);
        }

        @Override
        public EffectRow categorise(Effect.Categorise set) {
            CategoryRef category = set.category();
            return Kind.CATEGORY.row(category == null ? null : category.id(), true, null);
        }

        @Override
        public EffectRow putInto(Effect.PutInto put) {
            return Kind.TRAY.at(put.tray().id());
        }

        @Override
        public EffectRow markRead(Effect.MarkRead read) {
            return Kind.READ.turned(read.read());
        }

        @Override
        public EffectRow flag(Effect.Flag flag) {
            return Kind.FLAG.turned(flag.on());
        }

        @Override
        public EffectRow flagAs(Effect.FlagAs flag) {
            return Kind.FLAG_AS.at(flag.flag().id());
        }

        @Override
        public EffectRow due(Effect.Due due) {
            return Kind.DUE.saying(due.due().words());
        }

        @Override
        public EffectRow answer(Effect.Answer answer) {
            return Kind.ANSWER.saying(answer.text());
        }

        @Override
        public EffectRow forward(Effect.Forward forward) {
            return new EffectRow(Kind.FORWARD, null, forward.attached(), forward.text(), forward.to());
        }

        @Override
        public EffectRow answerAtOnce(Effect.AnswerAtOnce answer) {
            return Kind.ANSWER_AT_ONCE.saying(answer.text());
        }

        @Override
        public EffectRow awaitAnswer(Effect.AwaitAnswer await) {
            return Kind.AWAIT.saying(await.by().words());
        }

        @Override
        public EffectRow notify(Effect.Notify notify) {
            return Kind.NOTIFY.turned(notify.sound());
        }

        @Override
        public EffectRow byHand(Effect.ByHand effect) {
            throw new IllegalArgumentException("No rule can " + effect.sentence() + ".");
        }
    };

    /** @param owner the table's column for the rule or the routine */
    void insertInto(JdbcClient jdbc, String table, String owner, long id, int position) {
        String column = kind.column == null ? "folder_id" : kind.column;
        jdbc.sql(
                        "insert into " + table + " (" + owner + ", position, kind, " + column
                                + ", turned_on, detail, recipients) values (:id, :position, :kind, :place, :on, :detail, :recipients)")
                .param("id", id)
                .param("position", position)
                .param("kind", kind.name())
                .param("place", place, java.sql.Types.BIGINT)
                .param("on", on)
                .param("detail", detail)
                .param("recipients", recipients)
                .update();
    }

    /** Reads a row that has the folder's path with it. */
    static Effect read(ResultSet row, Places places) throws SQLException {
        boolean on = row.getBoolean("turned_on");
        String detail = row.getString("detail") == null ? "" : row.getString("detail");
        return switch (Kind.valueOf(row.getString("kind"))) {
            case FILE -> new Effect.FileInto(folder(row));
            case COPY -> new Effect.CopyInto(folder(row));
            case TICKLE -> new Effect.Tickle(folder(row), DueDate.parse(detail));
            case LABEL -> {
                Places.Label label = places.label(row.getLong("label_id")).orElseThrow();
                yield new Effect.SetLabel(label.ref(), on);
            }
            case CATEGORY ->
                new Effect.Categorise(places.category(row.getObject("category_id", Long.class))
                        .map(Places.Category::ref)
                        .orElse(null));
            case TRAY -> {
                Places.Tray tray = places.tray(row.getLong("tray_id")).orElseThrow();
                yield new Effect.PutInto(tray.ref());
            }
            case READ -> new Effect.MarkRead(on);
            case FLAG -> new Effect.Flag(on);
            case FLAG_AS -> {
                Places.OwnFlag flag = places.flag(row.getLong("flag_id")).orElseThrow();
                yield new Effect.FlagAs(flag.ref());
            }
            case DUE -> new Effect.Due(DueDate.parse(detail));
            case ANSWER -> new Effect.Answer(detail);
            case FORWARD -> new Effect.Forward(row.getString("recipients"), on, detail);
            case ANSWER_AT_ONCE -> new Effect.AnswerAtOnce(detail);
            case AWAIT -> new Effect.AwaitAnswer(DueDate.parse(detail));
            case NOTIFY -> new Effect.Notify(on);
        };
    }

    private static FolderRef folder(ResultSet row) throws SQLException {
        return new FolderRef(row.getLong("folder_id"), FolderPath.stored(row.getString("folder_path")));
    }
}
