package mandala.server.lifecycle;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.compliance.Holders;
import mandala.core.engine.Engine;
import mandala.core.lifecycle.AccountTemplate;
import mandala.core.lifecycle.OwnerChange;
import mandala.core.model.About;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.rule.Guests;
import mandala.document.KeyStem;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.OpenDraftChanges;
import mandala.server.platform.Problem;
import mandala.server.session.SignInLinks;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Counts who belongs to an account, and hands its ownership over. */
@Service
class AccountDesk {

  private static final Duration SOON = Duration.ofDays(30);
  private static final int MOST_INVITED = 10;

  private final SignInLinks links;
  private final OpenDraftChanges drafts;

  AccountDesk(SignInLinks links, OpenDraftChanges drafts) {
    this.links = links;
    this.drafts = drafts;
  }

  private static AccountKey requireReadable(String account, RequestContext context) {
    AccountKey key = new AccountKey(context.known(Kind.ACCOUNTS, account));
    if (!context.readPolicy().readableAccounts().contains(key)) {
      throw Problem.forbidden(
          "You can't see who belongs to this account. Ask its directory administrator.");
    }
    return key;
  }

  /**
   * {@return who belongs to an account, as far as the viewer may read}
   *
   * @throws Problem if there is none to the viewer's eyes, or they may not read what it holds
   */
  AccountController.AccountSummary summary(String account, RequestContext context) {
    AccountKey key = requireReadable(account, context);
    Engine engine = context.state().engine();
    Catalogue in = engine.catalogue();
    ReadPolicy sees = context.readPolicy();
    Instant now = sees.now();
    int active = 0;
    int suspended = 0;
    int services = 0;
    int withoutSponsor = 0;
    List<Principal> waiting = new ArrayList<>();
    for (Principal it : in.principals().values()) {
      if (!it.account().equals(key) || !sees.mayRead(it)) {
        continue;
      }
      if (it.kind() == Principal.Kind.SERVICE) {
        if (it.status() == Principal.Status.ACTIVE) {
          services++;
          withoutSponsor += it.sponsor() == null ? 1 : 0;
        }
        continue;
      }
      switch (it.status()) {
        case ACTIVE -> active++;
        case SUSPENDED -> suspended++;
        case INVITED -> waiting.add(it);
        case LEFT -> {
          // no longer of the account
        }
      }
    }
    Set<PrincipalKey> guests = new HashSet<>();
    Set<PrincipalKey> ending = new HashSet<>();
    Set<PrincipalKey> endless = new HashSet<>();
    for (Guest it : in.guests()) {
      Principal who = in.principals().get(it.principal());
      if (who == null
          || !it.window().holdsAt(now)
          || !Guests.covers(it, key, in)
          || !engine.isActive(it.principal(), now)
          || !sees.mayRead(who)) {
        continue;
      }
      guests.add(who.key());
      Instant until = it.window().until();
      if (until == null) {
        endless.add(who.key());
      } else if (!until.isAfter(now.plus(SOON))) {
        ending.add(who.key());
      }
    }
    List<PrincipalKey> owners = Authority.ownersOf(engine, in.rootOf(key), now);
    List<AccountController.PersonName> told = names(owners, context);
    return new AccountController.AccountSummary(
        active,
        suspended,
        waiting.size(),
        guests.size(),
        ending.size(),
        endless.size(),
        services,
        withoutSponsor,
        invited(waiting),
        seats(key, engine, context),
        told,
        told.size() < owners.size());
  }

  private static List<AccountController.PersonName> names(
      List<PrincipalKey> keys, RequestContext context) {
    return keys.stream()
        .filter(it -> context.naming().tells(Kind.PRINCIPALS, it.value()))
        .map(it ->
            new AccountController.PersonName(
                it.value(), context.text().name(Kind.PRINCIPALS, it.value())))
        .toList();
  }

  private List<AccountController.WaitingInvitation> invited(List<Principal> waiting) {
    Map<String, Instant> sent = links.invitedSince();
    return waiting.stream()
        .map(it ->
            new AccountController.WaitingInvitation(
                it.key().value(), it.about().nameOr(it.key()), sent.get(it.key().value())))
        .sorted(
            Comparator.comparing(
                    AccountController.WaitingInvitation::since,
                    Comparator.nullsFirst(Comparator.naturalOrder()))
                .thenComparing(AccountController.WaitingInvitation::name))
        .limit(MOST_INVITED)
        .toList();
  }

  /** A number of holders says something of each, so it is given to who sees them all. */
  private static List<AccountController.RoleSeats> seats(
      AccountKey account, Engine engine, RequestContext context) {
    Holders holders = Holders.at(engine, context.readPolicy().now());
    return engine.catalogue().roles().values().stream()
        .filter(it -> it.minHolders() != null || it.maxHolders() != null)
        .filter(it -> !it.retired() && (it.account() == null || account.equals(it.account())))
        .filter(it -> context.naming().tells(Kind.ROLES, it.key().value()))
        .map(it -> {
          List<Principal> who = holders.of(it.key());
          boolean all = who.stream().allMatch(context.readPolicy()::mayRead);
          return seats(it, all ? who.size() : null);
        })
        .toList();
  }

  private static AccountController.RoleSeats seats(Role it, @Nullable Integer used) {
    return new AccountController.RoleSeats(
        it.key().value(), it.about().nameOr(it.key()), used, it.minHolders(), it.maxHolders());
  }

  /** Hands ownership over, in the open draft. */
  AccountController.HandedOver handOver(
      String account, AccountController.OwnerOrder order, RequestContext context) {
    AccountKey key = requireReadable(account, context);
    People people = new People(context);
    Engine engine = context.state().engine();
    Instant now = context.readPolicy().now();
    Principal from = people.require(order.from(), engine.catalogue());
    Principal to = people.require(order.to(), engine.catalogue());
    if (!Authority.ownersOf(engine, engine.catalogue().rootOf(key), now).contains(from.key())) {
      throw Problem.conflict(
          from.about().nameOr(from.key()) + " does not own this account",
          "Reload the page and choose one of its owners.");
    }
    if (from.key().equals(to.key()) || !Authority.couldOwn(engine, to, now)) {
      throw Problem.badRequest(
          to.about().nameOr(to.key()) + " can't own an account",
          "Choose another active person with a second factor and without an end.");
    }
    String draft =
        drafts.put(
            context,
            in -> {
              List<Change> changes = OwnerChange.changes(in, people.ties(in, from), to);
              if (changes.isEmpty()) {
                throw Problem.conflict(
                    from.about().nameOr(from.key()) + " owns it through a group or a pattern",
                    "Change who is in that on its page; there is nothing to hand over by name.");
              }
              return changes;
            });
    return new AccountController.HandedOver(draft);
  }

  /** Makes an account like another, in the open draft. */
  AccountController.AccountCopied copy(
      String account, AccountController.AccountCopyOrder order, RequestContext context) {
    AccountKey like = requireReadable(account, context);
    String parent = order.parent();
    AccountKey above = parent == null || parent.isBlank() ? null : requireReadable(parent, context);
    People people = new People(context);
    Set<AccountTemplate.Part> parts = EnumSet.noneOf(AccountTemplate.Part.class);
    order
        .parts()
        .forEach(it -> parts.add(AccountTemplate.Part.valueOf(it.toUpperCase(Locale.ROOT))));
    int[] leftOut = {0};
    String[] key = {""};
    String draft =
        drafts.put(
            context,
            in -> {
              Principal administrator = people.require(order.administrator(), in);
              requireBelongs(administrator, above, in);
              key[0] =
                  KeyStem.free(
                      order.name(), "account", it -> in.accounts().containsKey(new AccountKey(it)));
              Account fresh =
                  new Account(
                      new AccountKey(key[0]),
                      About.named(order.name().strip()),
                      above,
                      false,
                      isSealed(like, in));
              AccountTemplate.Made made =
                  new AccountTemplate(
                          like, fresh, parts, administrator.key(), Supplied.SECURITY_ADMINISTRATOR)
                      .made(
                          in, it -> context.readPolicy().mayRead(it, in) && context.tellsAllOf(it));
              leftOut[0] = made.leftOut();
              return made.changes();
            });
    return new AccountController.AccountCopied(draft, key[0], leftOut[0]);
  }

  private static boolean isSealed(AccountKey key, Catalogue in) {
    Account it = in.accounts().get(key);
    return it != null && it.sealed();
  }

  /** Who is at home in an account belongs to those below it (section 2). */
  private static void requireBelongs(
      Principal administrator, @Nullable AccountKey above, Catalogue in) {
    boolean belongs = above != null && in.isAtOrBelow(above, administrator.account());
    if (!belongs || administrator.kind() != Principal.Kind.PERSON) {
      throw Problem.badRequest(
          administrator.about().nameOr(administrator.key()) + " would not belong to the account",
          "Choose a person at home in the account above it, or higher up.");
    }
    if (administrator.status() != Principal.Status.ACTIVE) {
      throw Problem.badRequest(
          administrator.about().nameOr(administrator.key()) + " is not active",
          "Choose an active person.");
    }
  }
}
