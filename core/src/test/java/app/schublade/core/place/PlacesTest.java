package app.schublade.core.place;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.problem.InputProblem;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PlacesTest {
    @ParameterizedTest
    @CsvSource({
        "Loans, Loans",
        "' Loans /  Halden   Foundation ', Loans/Halden Foundation",
        "/Loans//Returned/, Loans/Returned",
        "Ausstellung/Größe/Ελλάδα, Ausstellung/Größe/Ελλάδα"
    })
    void pathsAreReadAndWritten(String typed, String path) {
        assertThat(FolderPath.parse(typed)).hasToString(path);
        assertThat(FolderPath.parse(path)).hasToString(path);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", " / ", "a\u0007b", "1/2/3/4/5/6/7/8/9/10/11/12/13"})
    void whatCannotBeAPathIsRefused(String typed) {
        assertThatThrownBy(() -> FolderPath.parse(typed)).isInstanceOf(InputProblem.class);
    }

    @Test
    void anEndlessNameIsRefusedWithItsLength() {
        assertThatThrownBy(() -> FolderPath.parse("x".repeat(101)))
                .hasMessage("\"xxxxxxxxxxxxxxxxxxxx…\" is 101 characters long; 100 is the limit.");
    }

    @Test
    void treesKeepTheirOrderAndLoseNothing() {
        PathTree<String> tree =
                PathTree.of(List.of("b/c", "loans", "Loans-2", "a", "loans/x", "b", "orphan/child"), FolderPath::parse);
        assertThat(tree.roots().stream().flatMap(PlacesTest::flat))
                .containsExactly("a", "b", " c", "loans", " x", "Loans-2", "child");
    }

    private static Stream<String> flat(PathTree.Node<String> node) {
        return Stream.concat(
                Stream.of(node.path().name()),
                node.children().stream().flatMap(PlacesTest::flat).map(name -> " " + name));
    }

    @ParameterizedTest
    @CsvSource({
        "INBOX, '', INBOX",
        "Sent Items, '', SENT",
        "Gone, \\Trash, TRASH",
        "Loans/Sent, '', ",
        "Schools, \\HasNoChildren, ",
    })
    void specialFoldersAreKnownByAttributeThenByName(String path, String attribute, SpecialUse use) {
        assertThat(SpecialUse.of(FolderPath.parse(path), List.of(attribute)).orElse(null))
                .isEqualTo(use);
    }

    @ParameterizedTest
    @CsvSource({"Objects/Ship models, label-objects-ship-models", "Größe, label-grosse"})
    void keywordsAreReadableAtoms(String path, String keyword) {
        assertThat(Keyword.ofLabel(FolderPath.parse(path))).isEqualTo(keyword);
    }

    @Test
    void numbersInNamesAreInTheirOrder() {
        List<String> wanted = List.of(
                "Matter 2",
                "Matter 020",
                "matter 20",
                "Matter 20/Annex",
                "Matter 100",
                "Mattress",
                "x" + "9".repeat(40),
                "x1" + "0".repeat(40));
        List<FolderPath> sorted =
                new ArrayList<>(wanted.stream().map(FolderPath::parse).toList());
        Collections.shuffle(sorted, new Random(3));
        Collections.sort(sorted);
        assertThat(sorted).extracting(FolderPath::toString).containsExactlyElementsOf(wanted);
        assertThat(FolderPath.parse("Matter 20")).isEqualByComparingTo(FolderPath.parse("MATTER 20"));
        assertThat(FolderPath.parse("Matter 020")).isNotEqualByComparingTo(FolderPath.parse("Matter 20"));
    }

    @Test
    void keywordsOfOtherScriptsStayApart() {
        assertThat(Keyword.ofCategory("Επείγον"))
                .matches("category-x[0-9a-f]+")
                .isNotEqualTo(Keyword.ofCategory("Αργότερα"));
    }
}
