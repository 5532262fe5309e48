package app.schublade.core.place;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.place.Arrangement.SortOrder;
import app.schublade.core.place.Columns.Column;
import app.schublade.core.problem.InputProblem;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class ColumnsTest {
    @Test
    void whatIsWrittenIsReadAgain() {
        Columns columns = Columns.parse("DATE:90,SUBJECT:420");
        assertThat(columns).hasToString("DATE:90,SUBJECT:420");
        assertThat(columns.all().get(1).column()).isEqualTo(Column.SUBJECT);
        assertThat(Columns.parse("")).isEqualTo(Columns.NONE);
    }

    @Test
    void widthsStayWithinReason() {
        assertThat(Columns.parse("DATE:1,SIZE:99999")).hasToString("DATE:40,SIZE:1200");
    }

    @ParameterizedTest
    @ValueSource(strings = {"DATE", "DATE:x", "date:90", "NOTHING:90", "DATE:90,DATE:100", "DATE:90;x", "DATE:123456"})
    void otherTextIsNoColumns(String text) {
        assertThatThrownBy(() -> Columns.parse(text)).isInstanceOf(InputProblem.class);
    }

    @Test
    void choosingKeepsTheOrderAndTheWidthsOfWhatWasThere() {
        Columns columns = Columns.parse("DATE:90,SIZE:70,SUBJECT:420");
        assertThat(columns.only(Set.of(Column.SUBJECT, Column.FOLDER, Column.DATE, Column.SENDER)))
                .hasToString("DATE:90,SUBJECT:420,SENDER:130,FOLDER:110");
    }

    @ParameterizedTest
    @EnumSource(Arrangement.SortKey.class)
    void pressingAHeadSortsByItAndThenTheOtherWay(Arrangement.SortKey key) {
        SortOrder first = SortOrder.SUBJECT.next(key == Arrangement.SortKey.SUBJECT ? Arrangement.SortKey.DATE : key);
        SortOrder other = first.next(first.key());
        assertThat(other.key()).isEqualTo(first.key());
        assertThat(other.ascending()).isNotEqualTo(first.ascending());
        assertThat(other.next(first.key())).isEqualTo(first);
    }
}
