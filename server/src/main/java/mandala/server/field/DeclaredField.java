package mandala.server.field;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import mandala.core.model.Principal;

/**
 * A field that an account asks of those at home in it and below; its value is the attribute of its
 * key.
 *
 * @param key the attribute
 * @param label what forms and lists call it
 * @param choices what can be chosen; any text where there is none
 * @param required of {@code person} and {@code service}: who must have it
 */
public record DeclaredField(
    @NotNull
        @Pattern(
            regexp = "[a-z][a-z0-9-]{0,39}",
            message = "Write a key of small letters, digits and hyphens")
        String key,
    @NotBlank @Size(max = 60) String label,
    @NotNull @Size(max = 100) List<@NotBlank @Size(max = 100) String> choices,
    @NotNull @Size(max = 2) Set<@NotNull @Pattern(regexp = "person|service") String> required) {

  /** Copies its lists. */
  public DeclaredField {
    choices = choices == null ? List.of() : List.copyOf(choices);
    required = required == null ? Set.of() : Set.copyOf(required);
  }

  /** {@return whether somebody of a kind must have it} */
  public boolean isRequiredOf(Principal.Kind kind) {
    return required.contains(kind.name().toLowerCase(Locale.ROOT));
  }

  /** {@return whether a value is one of its choices, or it has none} */
  public boolean takes(String value) {
    return choices.isEmpty() || choices.contains(value);
  }
}
