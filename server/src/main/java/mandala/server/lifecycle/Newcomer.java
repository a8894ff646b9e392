package mandala.server.lifecycle;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import mandala.core.analysis.Peers;
import mandala.core.model.About;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.document.KeyStem;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * Somebody who is brought in.
 *
 * @param email where their invitation goes
 * @param title their job, as a copied colleague's where absent
 * @param unit as a copied colleague's where absent; {@code manager} likewise
 */
record Newcomer(
    @NotBlank @Size(max = 200) String name,
    @Nullable @Size(max = 200) String email,
    @Nullable @Size(max = 200) String title,
    @Nullable @Size(max = 100) String unit,
    @Nullable @Size(max = 100) String manager) {

  /**
   * {@return the new principal}: a person invited, in an account and with a key that is free
   *
   * @param like whose kind, account, and facts that are not given, they have
   * @throws Problem if the address is somebody's already
   */
  Principal principal(Catalogue in, Principal like) {
    String address = email == null || email.isBlank() ? null : email.strip();
    requireFree(in, address);
    Map<String, String> attributes = new HashMap<>(like.attributes());
    if (title != null && !title.isBlank()) {
      attributes.put(Peers.TITLE, title.strip());
    }
    String above = manager == null || manager.isBlank() ? null : manager;
    String of = unit == null || unit.isBlank() ? null : unit;
    return new Principal(
        key(name, it -> in.principals().containsKey(new PrincipalKey(it))),
        About.named(name.strip()),
        like.kind(),
        new AccountKey(like.account().value()),
        of == null ? like.unit() : new UnitKey(of),
        above == null ? like.manager() : new PrincipalKey(above),
        Principal.Status.INVITED,
        Window.ALWAYS,
        false,
        attributes,
        null,
        List.of(),
        address,
        null,
        like.sponsor());
  }

  private static void requireFree(Catalogue in, @Nullable String address) {
    if (address == null) {
      return;
    }
    if (!isAddress(address)) {
      throw Problem.badRequest(
          "'" + address + "' is no e-mail address", "Write it like name@example.org.");
    }
    if (in.principals().values().stream().anyMatch(it -> address.equalsIgnoreCase(it.email()))) {
      throw Problem.conflict(
          "Somebody has the address '" + address + "' already",
          "Look them up in the list of people, or give another address.");
    }
  }

  /** {@return a key made of a name, which nobody has} */
  static PrincipalKey key(String name, Predicate<String> taken) {
    String anonymous = PrincipalKey.ANONYMOUS.value();
    return new PrincipalKey(
        KeyStem.free(name, "person", it -> it.equals(anonymous) || taken.test(it)));
  }

  /** {@return whether mail could go there}: somebody at some place */
  static boolean isAddress(String text) {
    return text.matches("[^\\s@]+@[^\\s@]+");
  }
}
