/**
 * The demo world: people who write to each other about matters that run over weeks and months. Start at
 * {@link app.schublade.standin.world.World}. What happens stands in text files beside the classes
 * ({@code people.txt}, {@code stories/*.txt}); a fact is drawn once and stands the same in every letter, document and
 * table that names it.
 */
@org.jspecify.annotations.NullMarked
package app.schublade.standin.world;
