package mandala.server.token;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Judges who may make, see and revoke tokens. Nobody makes a token that may read what they
 * themselves may not: for each of its accounts its maker manages the settings and has what its
 * purposes need, now. What it then may read is decided by the rights of its principal, at each
 * call.
 */
@Service
class TokenDesk {

  /** How many tokens that hold one principal has. */
  static final int MOST = 20;

  private static final Duration LONGEST = Duration.ofDays(366);

  private final Tokens tokens;
  private final Trail trail;
  private final AuditContext auditContext;

  TokenDesk(Tokens tokens, Trail trail, AuditContext auditContext) {
    this.tokens = tokens;
    this.trail = trail;
    this.auditContext = auditContext;
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

  /** {@return the tokens of which somebody may know, and what they may make} */
  TokenList list(RequestContext context) {
    ReadPolicy policy = context.readPolicy();
    List<Makeable> makeable =
        context.state().engine().catalogue().accounts().keySet().stream()
            .filter(it -> policy.may(Supplied.SETTINGS_MANAGE, ResourceKey.of(it)))
            .map(it -> new Makeable(it.value(), purposes(it, policy)))
            .filter(it -> !it.purposes().isEmpty())
            .toList();
    List<TokenView> seen =
        tokens.all().stream()
            .filter(it -> isSeen(it, policy))
            .map(it -> view(it, context))
            .toList();
    if (seen.isEmpty() && !policy.managesSettings()) {
      throw Problem.forbidden(
          "You need “Manage settings” on an account to see its tokens. Ask its administrator.");
    }
    return new TokenList(makeable, seen);
  }

  private static List<String> purposes(AccountKey account, ReadPolicy policy) {
    return Arrays.stream(TokenPurpose.values())
        .filter(it -> policy.may(it.needed(), ResourceKey.of(account)))
        .map(TokenPurpose::word)
        .toList();
  }

  /** Whether somebody manages the settings of one of its accounts, or it has their rights. */
  private static boolean isSeen(Token token, ReadPolicy policy) {
    return policy.isViewer(new PrincipalKey(token.principal()))
        || token.accounts().stream()
            .map(AccountKey::new)
            .anyMatch(it -> policy.may(Supplied.SETTINGS_MANAGE, ResourceKey.of(it)));
  }

  private static TokenView view(Token token, RequestContext context) {
    ReadPolicy policy = context.readPolicy();
    List<String> told =
        token.accounts().stream()
            .filter(it -> context.naming().tells(Kind.ACCOUNTS, it))
            .sorted()
            .toList();
    String principal = told(token.principal(), context);
    String madeBy = told(token.madeBy(), context);
    return new TokenView(
        token.id(),
        token.name(),
        principal,
        name(principal, context),
        token.purposes().stream().sorted().toList(),
        told,
        told.size() < token.accounts().size(),
        madeBy,
        name(madeBy, context),
        token.made(),
        token.ends(),
        token.used(),
        token.from(),
        state(token, context, policy.now()));
  }

  private static @Nullable String told(String principal, RequestContext context) {
    return context.naming().tells(Kind.PRINCIPALS, principal) ? principal : null;
  }

  private static @Nullable String name(@Nullable String principal, RequestContext context) {
    return principal == null ? null : context.text().name(Kind.PRINCIPALS, principal);
  }

  private static String state(Token token, RequestContext context, Instant now) {
    if (token.revoked() != null) {
      return "revoked";
    }
    if (!token.holdsAt(now)) {
      return "ended";
    }
    boolean active = context.state().engine().isActive(new PrincipalKey(token.principal()), now);
    return active ? "active" : "resting";
  }

  /**
   * {@return a new token with its secret}
   *
   * @throws Problem if the viewer may not make it, or it cannot be
   */
  @Transactional
  public NewToken make(TokenOrder order, RequestContext context) {
    PrincipalKey principal = principal(order.principal(), context);
    requireRights(order, context.readPolicy());
    Instant now = context.readPolicy().now();
    Instant ends = order.ends().truncatedTo(ChronoUnit.SECONDS);
    if (!ends.isAfter(now) || ends.isAfter(now.plus(LONGEST))) {
      throw Problem.badRequest(
          "The end does not fit",
          "A token ends after now and within " + LONGEST.toDays() + " days. Choose another end.");
    }
    String name = order.name().strip();
    List<Token> holding = tokens.holding(principal);
    if (holding.stream().anyMatch(it -> it.name().equalsIgnoreCase(name))) {
      throw Problem.conflict(
          "There is a token of this name",
          "Give this one another name, or revoke the other first.");
    }
    if (holding.size() >= MOST) {
      throw Problem.conflict(
          "Too many tokens",
          "One principal has at most " + MOST + ". Choose one of them and revoke it first.");
    }
    Tokens.Made made =
        tokens.make(
            new Tokens.Order(name, principal, order.purposes(), order.accounts(), ends),
            context.readPolicy().viewer());
    note(
        AuditEvent.Act.TOKEN_MADE,
        made.token(),
        "Made the token “"
            + name
            + "” for "
            + String.join(", ", new TreeSet<>(order.purposes()))
            + " until "
            + ends);
    return new NewToken(view(made.token(), context), made.secret());
  }

  /** One's own rights, or those of a service that one manages. */
  private static PrincipalKey principal(@Nullable String asked, RequestContext context) {
    ReadPolicy policy = context.readPolicy();
    if (asked == null || asked.isBlank() || asked.equals(policy.viewer().value())) {
      return policy.viewer();
    }
    Principal service = policy.known(new PrincipalKey(asked));
    if (service == null
        || service.kind() != Principal.Kind.SERVICE
        || !policy.mayRead(service)
        || !policy.may(Supplied.PEOPLE_MANAGE, service.place())) {
      throw Problem.badRequest(
          "A token has your rights or those of a service",
          "'" + asked + "' is no service that you manage. Choose another, or leave it out.");
    }
    return service.key();
  }

  private static void requireRights(TokenOrder order, ReadPolicy policy) {
    for (String word : new TreeSet<>(order.purposes())) {
      TokenPurpose purpose =
          TokenPurpose.of(word)
              .orElseThrow(() ->
                  Problem.badRequest(
                      "'" + word + "' is nothing a token is for",
                      "Choose among "
                          + String.join(
                              ", ",
                              Arrays.stream(TokenPurpose.values()).map(TokenPurpose::word).toList())
                          + "."));
      for (String account : new TreeSet<>(order.accounts())) {
        ResourceKey place = ResourceKey.of(new AccountKey(account));
        if (!policy.may(Supplied.SETTINGS_MANAGE, place) || !policy.may(purpose.needed(), place)) {
          throw Problem.forbidden(
              "You can't make a token for '"
                  + word
                  + "' on the account '"
                  + account
                  + "'. Ask for “Manage settings” there, and for what the token reads.");
        }
      }
    }
  }

  /**
   * Revokes a token: by whoever manages the settings of one of its accounts, or whose rights it
   * has.
   *
   * @throws Problem if there is none that the viewer may see
   */
  @Transactional
  public TokenView revoke(String id, RequestContext context) {
    Token token =
        tokens
            .get(id)
            .filter(it -> isSeen(it, context.readPolicy()))
            .orElseThrow(() -> Problem.notFound("There is no such token. Reload the list."));
    if (tokens.revoke(id, context.readPolicy().viewer())) {
      note(AuditEvent.Act.TOKEN_REVOKED, token, "Revoked the token “" + token.name() + "”");
    }
    return view(tokens.get(id).orElse(token), context);
  }

  private void note(AuditEvent.Act act, Token token, String said) {
    Set<String> accounts = new TreeSet<>(token.accounts());
    trail.write(List.of(auditContext.by(act, List.copyOf(accounts), said)));
  }
}
