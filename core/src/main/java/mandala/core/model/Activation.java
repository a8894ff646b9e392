package mandala.core.model;

/** A principal has switched a just-in-time assignment on; its window must have an end. */
public record Activation(
    About about, Key.Principal principal, Key.Assignment assignment, Window window)
    implements Thing {}
