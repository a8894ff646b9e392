package mandala.server.lifecycle;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Who belongs to an account, and who owns it. */
@RestController
@RequestMapping("/api/accounts/{account}")
class AccountController {

  private final AccountDesk desk;
  private final RequestContexts contexts;

  AccountController(AccountDesk desk, RequestContexts contexts) {
    this.desk = desk;
    this.contexts = contexts;
  }

  /** Somebody by name. */
  record PersonName(String key, String name) {}

  /**
   * Somebody who is invited and has not come.
   *
   * @param since when their last invitation was sent; absent where none was
   */
  record WaitingInvitation(String key, String name, @Nullable Instant since) {}

  /**
   * A role with a limit of holders.
   *
   * @param used how many active people and services hold it; absent where the viewer can't see all
   * @param least how many must hold it; absent for no limit
   * @param most how many may hold it; absent for no limit
   */
  record RoleSeats(
      String key,
      String name,
      @Nullable Integer used,
      @Nullable Integer least,
      @Nullable Integer most) {}

  /**
   * Who belongs to an account, as far as the viewer may read.
   *
   * @param active active persons at home in it
   * @param guests who is a guest of it now
   * @param guestsEnding those whose time there ends within 30 days
   * @param guestsWithoutEnd those whose time there has no end
   * @param invited the first who are invited and have not come, whoever waits longest first
   * @param servicesWithoutSponsor those for which nobody answers
   * @param seats roles with a limit of holders that are defined in it, or shared
   * @param owners who owns it; of an account below another, who owns the one at the top
   * @param hiddenOwners whether there are owners whom the viewer can't see
   */
  record AccountSummary(
      int active,
      int suspended,
      int waiting,
      int guests,
      int guestsEnding,
      int guestsWithoutEnd,
      int services,
      int servicesWithoutSponsor,
      List<WaitingInvitation> invited,
      List<RoleSeats> seats,
      List<PersonName> owners,
      boolean hiddenOwners) {}

  /** Who is to own what somebody owns. */
  record OwnerOrder(@NotBlank @Size(max = 100) String from, @NotBlank @Size(max = 100) String to) {}

  /** The draft that hands ownership over. */
  record HandedOver(String draft) {}

  /**
   * A new account made like this one.
   *
   * @param parent the account that it is below; absent for one at the top
   * @param administrator a person who belongs to it from its parent on
   * @param parts of {@code units}, {@code groups} and {@code roles}: what is copied
   */
  record AccountCopyOrder(
      @NotBlank @Size(max = 200) String name,
      @Nullable @Size(max = 200) String parent,
      @NotBlank @Size(max = 100) String administrator,
      @NotNull @Size(max = 3) Set<@NotNull @Pattern(regexp = "units|groups|roles") String> parts) {}

  /**
   * The draft that makes an account.
   *
   * @param account its key
   * @param leftOut assignments that were not copied: they name something outside of the account, or
   *     hold for a time only
   */
  record AccountCopied(String draft, String account, int leftOut) {}

  /** Makes an account like this one, in the caller's open draft. */
  @PostMapping("/copies")
  AccountCopied copy(@PathVariable String account, @Valid @RequestBody AccountCopyOrder order) {
    return desk.copy(account, order, contexts.context());
  }

  /** Who belongs to an account. */
  @Costly
  @GetMapping("/summary")
  AccountSummary summary(@PathVariable String account) {
    return desk.summary(account, contexts.context());
  }

  /** Hands ownership over, in the caller's open draft. */
  @PostMapping("/owner")
  HandedOver handOver(@PathVariable String account, @Valid @RequestBody OwnerOrder order) {
    return desk.handOver(account, order, contexts.context());
  }
}
