package mandala.server.token;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Tokens of connections, for those who manage the settings of an account. */
@RestController
@RequestMapping("/api/settings/tokens")
class TokenController {

  private final TokenDesk desk;
  private final RequestContexts contexts;

  TokenController(TokenDesk desk, RequestContexts contexts) {
    this.desk = desk;
    this.contexts = contexts;
  }

  /**
   * The tokens.
   *
   * @param accounts for which accounts the viewer may make tokens
   * @param tokens the newest first: of accounts whose settings the viewer manages, and their own
   */
  record TokenList(List<Makeable> accounts, List<TokenView> tokens) {}

  /**
   * An account for which the viewer may make tokens.
   *
   * @param purposes what for
   */
  record Makeable(String account, List<String> purposes) {}

  /**
   * A token.
   *
   * @param principal key of whose rights it has, null where the viewer may not read it
   * @param accounts keys of the accounts of which it may tell, as far as the viewer may read them
   * @param more whether it tells of further accounts
   * @param madeBy key of who made it, null where the viewer may not read it
   * @param used when it was used last, to a minute, or null
   * @param from the address from which it was used last, or null
   * @param state {@code resting}: its principal is not active
   */
  record TokenView(
      String id,
      String name,
      @Nullable String principal,
      @Nullable String principalName,
      List<String> purposes,
      List<String> accounts,
      boolean more,
      @Nullable String madeBy,
      @Nullable String madeByName,
      Instant made,
      Instant ends,
      @Nullable Instant used,
      @Nullable String from,
      @Schema(allowableValues = {"active", "resting", "ended", "revoked"}) String state) {}

  /** The tokens of which the viewer may know. */
  @GetMapping
  TokenList tokens() {
    return desk.list(contexts.context());
  }

  /**
   * What a token is to be.
   *
   * @param principal key of the service whose rights it is to have, or null for one's own
   */
  record TokenOrder(
      @NotBlank @Size(max = 80) String name,
      @Nullable @Size(max = 200) String principal,
      @NotEmpty @Size(max = 10) Set<@NotBlank String> purposes,
      @NotEmpty @Size(max = 200) Set<@NotBlank String> accounts,
      @NotNull Instant ends) {}

  /**
   * A new token.
   *
   * @param secret what a connection sends as {@code Authorization: Bearer}; told this once
   */
  record NewToken(TokenView token, String secret) {
    @Override
    public String toString() {
      return "NewToken[" + token + "]";
    }
  }

  /** Makes a token. */
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  NewToken make(@Valid @RequestBody TokenOrder order) {
    return desk.make(order, contexts.context());
  }

  /** Revokes a token, at once and for good. */
  @DeleteMapping("/{id}")
  TokenView revoke(@PathVariable String id) {
    return desk.revoke(id, contexts.context());
  }
}
