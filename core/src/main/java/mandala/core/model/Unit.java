package mandala.core.model;

import org.jspecify.annotations.Nullable;

/** An organisational unit; the units of an account form a forest. */
public record Unit(Key.Unit key, About about, Key.Account account, Key.@Nullable Unit parent)
    implements Thing {}
