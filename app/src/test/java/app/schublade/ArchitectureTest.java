package app.schublade;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaConstructor;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.reflect.Modifier;
import java.net.IDN;
import java.net.URI;
import java.net.URISyntaxException;
import java.net.URLDecoder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.NullMarked;
import org.junit.jupiter.api.Test;

/** The architecture, so that it cannot be forgotten. Stand-in and tests are left out. */
@AnalyzeClasses(
        packages = "app.schublade",
        importOptions = {ImportOption.DoNotIncludeTests.class, ArchitectureTest.NoStandin.class})
class ArchitectureTest {
    static final class NoStandin implements ImportOption {
        @Override
        public boolean includes(com.tngtech.archunit.core.importer.Location location) {
            return !location.contains("/standin/");
        }
    }

    private static final int MOST_PARAMETERS = 7;

    @ArchTest
    static final ArchRule NO_CIRCLES =
            slices().matching("app.schublade.(**)").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule THE_CORE_KNOWS_NO_FRAMEWORK = classes()
            .that()
            .resideInAPackage("app.schublade.core..")
            .should()
            .onlyDependOnClassesThat(JavaClass.Predicates.resideInAnyPackage(
                            "app.schublade.core..",
                            "java.lang..",
                            "java.util..",
                            "java.time..",
                            "java.text..",
                            "java.security..",
                            "java.io..",
                            "java.nio",
                            "java.nio.charset..",
                            "org.jspecify.annotations..",
                            "org.jsoup..",
                            "com.google.re2j..",
                            "org.mozilla.universalchardet..",
                            "biweekly..",
                            "org.apache.poi.hmef..",
                            "org.apache.james.mime4j..")
                    .or(JavaClass.Predicates.belongToAnyOf(
                            IDN.class, URI.class, URISyntaxException.class, URLDecoder.class)));

    @ArchTest
    static final ArchRule WHAT_READS_MESSAGES_HAS_NO_PATTERN_THAT_CAN_BACKTRACK = noClasses()
            .that()
            .resideInAnyPackage("app.schublade.core.format..", "app.schublade.web.reader..")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("java.util.regex..");

    @ArchTest
    static final ArchRule THREADS_ARE_MADE_IN_ONE_PLACE = noClasses()
            .that()
            .resideInAPackage("app.schublade..")
            .and()
            .resideOutsideOfPackages("app.schublade.work..", "app.schublade.mail..", "app.schublade.bench..")
            .should()
            .callConstructor(Thread.class)
            .orShould()
            .callConstructor(Thread.class, Runnable.class)
            .orShould()
            .callConstructor(Thread.class, Runnable.class, String.class)
            .orShould()
            .callMethodWhere(com.tngtech.archunit.core.domain.JavaCall.Predicates.target(
                    com.tngtech.archunit.core.domain.properties.HasOwner.Predicates.With.owner(
                            JavaClass.Predicates.type(java.util.concurrent.Executors.class))))
            .orShould()
            .callConstructor(
                    java.util.concurrent.ThreadPoolExecutor.class,
                    int.class,
                    int.class,
                    long.class,
                    java.util.concurrent.TimeUnit.class,
                    java.util.concurrent.BlockingQueue.class);

    /** Elsewhere are only the rows of new messages, whose counts {@code MessageWriter} counts too, and what conversation they are in. */
    @Test
    void messagesAreChangedInOnePlace() throws IOException {
        Pattern change =
                Pattern.compile("(?:update|insert into|delete from) message[ (\\n]|BulkRows\\(\\s*\"message\"");
        List<String> changing;
        try (Stream<Path> files = Files.walk(Path.of("src/main/java/app/schublade/store"))) {
            changing = files.filter(Files::isRegularFile)
                    .filter(file -> change.matcher(read(file)).find())
                    .map(file -> file.getFileName().toString().replace(".java", ""))
                    .sorted()
                    .toList();
        }
        assertThat(changing)
                .containsExactly("ConversationStore", "HandledStore", "MessageCopier", "MessageWriter", "NewRows");
    }

    /** They say what is shown; what there is to choose from they are given. */
    @Test
    void templatesNameNoClass() throws IOException {
        try (Stream<Path> files = Files.walk(Path.of("src/main/resources/templates"))) {
            assertThat(files.filter(Files::isRegularFile))
                    .isNotEmpty()
                    .allSatisfy(file -> assertThat(read(file)).doesNotContain("${T(", "new app."));
        }
    }

    /** A class that moves must not be looked for where it was. */
    @Test
    void whatIsNamedOutsideOfTheCodeIsThere() throws IOException {
        Pattern named = Pattern.compile("app\\.schublade\\.(?!bench|standin)[a-z.]*[A-Z]\\w*");
        List<String> names = new ArrayList<>();
        for (String place : List.of("src/main/resources/META-INF", "../script")) {
            try (Stream<Path> files = Files.walk(Path.of(place))) {
                files.filter(Files::isRegularFile)
                        .flatMap(file -> named.matcher(read(file)).results())
                        .forEach(name -> names.add(name.group()));
            }
        }
        assertThat(names)
                .hasSizeGreaterThan(2)
                .allSatisfy(name -> assertThat(Class.forName(name, false, ArchitectureTest.class.getClassLoader()))
                        .isNotNull());
    }

    private static String read(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A name says one thing; within one class, what is private to it may be called as it likes. */
    @ArchTest
    static void noNameStandsTwice(JavaClasses all) {
        Map<String, List<String>> byName = all.stream()
                .filter(type -> !type.isAnonymousClass() && !type.isLocalClass())
                .filter(type -> !type.getSimpleName().equals("package-info"))
                .filter(type -> !type.getModifiers().contains(JavaModifier.SYNTHETIC))
                .filter(type -> type.isTopLevelClass()
                        || !Modifier.isPrivate(type.reflect().getModifiers()))
                .collect(Collectors.groupingBy(
                        JavaClass::getSimpleName,
                        TreeMap::new,
                        Collectors.mapping(JavaClass::getName, Collectors.toList())));
        assertThat(byName).hasSizeGreaterThan(400);
        assertThat(byName.values()).allSatisfy(names -> assertThat(names).hasSize(1));
    }

    /** What needs more than seven others does more than one thing. Records are rows and values, with as many parts as they have. */
    @ArchTest
    static void noClassIsMadeOfMoreThanSevenOthers(JavaClasses all) {
        assertThat(all.stream()
                        .filter(type -> !type.isRecord() && !type.isEnum())
                        .flatMap(type -> type.getConstructors().stream())
                        .filter(constructor ->
                                constructor.getRawParameterTypes().size() > MOST_PARAMETERS)
                        .map(JavaConstructor::getFullName))
                .isEmpty();
    }

    @ArchTest
    static final ArchRule MAIL_KNOWS_NEITHER_SPRING_NOR_THE_APPLICATION = noClasses()
            .that()
            .resideInAPackage("app.schublade.mail..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "org.springframework..", "app.schublade.store..", "app.schublade.sync..", "app.schublade.web..");

    @ArchTest
    static final ArchRule MAIL_PROTOCOLS_END_IN_MAIL = noClasses()
            .that()
            .resideOutsideOfPackage("app.schublade.mail..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("org.eclipse.angus..", "jakarta.mail..");

    @ArchTest
    static final ArchRule SQL_LIVES_IN_THE_STORE = noClasses()
            .that()
            .resideOutsideOfPackage("app.schublade.store..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("java.sql..", "javax.sql..", "org.springframework.jdbc..", "org.postgresql..");

    @ArchTest
    static final ArchRule WHAT_IS_STORED_KNOWS_NEITHER_PAGES_NOR_SERVERS = noClasses()
            .that()
            .resideInAPackage("app.schublade.store..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("app.schublade.sync..", "app.schublade.web..");

    @ArchTest
    static final ArchRule SYNCHRONISATION_KNOWS_NO_PAGES = noClasses()
            .that()
            .resideInAPackage("app.schublade.sync..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("app.schublade.web..", "jakarta.servlet..");

    @ArchTest
    static final ArchRule EVERY_PACKAGE_SAYS_WHAT_MAY_BE_NULL = classes()
            .that()
            .areTopLevelClasses()
            .and(DescribedPredicate.not(JavaClass.Predicates.simpleName("package-info")))
            .should(com.tngtech.archunit.lang.conditions.ArchConditions.be(
                    new DescribedPredicate<JavaClass>("in a package that is @NullMarked") {
                        @Override
                        public boolean test(JavaClass type) {
                            return type.getPackage()
                                    .tryGetAnnotationOfType(NullMarked.class)
                                    .isPresent();
                        }
                    }));
}
