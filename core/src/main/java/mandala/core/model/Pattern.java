package mandala.core.model;

import org.jspecify.annotations.Nullable;

/** A named starting point that people of one job share; assignments name it as subject. */
public record Pattern(Key.Pattern key, About about, Key.@Nullable Account account)
    implements Thing {}
