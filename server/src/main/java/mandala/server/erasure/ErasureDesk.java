package mandala.server.erasure;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import mandala.core.authority.Authority;
import mandala.core.lifecycle.Parting;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.document.ThingDocument;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.UnattendedDrafts;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.model.Revision;
import mandala.server.platform.Problem;
import mandala.server.session.CurrentPrincipal;
import mandala.server.session.SignIn;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Service;

/**
 * Orders erasures. An owner of the root account above somebody's home orders theirs, once they left
 * long enough ago: an erasure takes away what tells who did what.
 */
@Service
class ErasureDesk {

  private final ErasureStore store;
  private final UnattendedDrafts drafts;
  private final History history;
  private final LiveModel model;
  private final SignIn signIn;
  private final CurrentPrincipal viewer;
  private final Clock clock;
  private final Duration after;

  ErasureDesk(
      ErasureStore store,
      UnattendedDrafts drafts,
      History history,
      LiveModel model,
      SignIn signIn,
      CurrentPrincipal viewer,
      Clock clock,
      @Value("${mandala.erasure.after:P30D}") Duration after) {
    this.store = store;
    this.drafts = drafts;
    this.history = history;
    this.model = model;
    this.signIn = signIn;
    this.viewer = viewer;
    this.clock = clock;
    this.after = after;
  }

  /**
   * Somebody whom the viewer may erase, now or later.
   *
   * @param known their record, which may be that of the past
   * @param there whether it is in the model
   * @param left when they left, null where that was before the trail
   */
  private record Leaver(Principal known, boolean there, @Nullable Instant left) {}

  ErasureController.ErasureOutlook outlook(String key, RequestContext context) {
    Leaver it = require(key, context);
    return new ErasureController.ErasureOutlook(
        it.known().about().nameOr(it.known().key()), it.left(), earliest(it), store.isOrdered(key));
  }

  /**
   * Orders an erasure; the record goes from the model at once.
   *
   * @param proof the current code of the caller's second factor
   */
  void order(String key, String proof, String reason, RequestContext context) {
    Leaver it = require(key, context);
    if (store.isOrdered(key)) {
      throw Problem.conflict("They are being erased", "Wait a few minutes and look at the trail.");
    }
    Instant earliest = earliest(it);
    if (earliest != null && earliest.isAfter(clock.instant())) {
      throw Problem.conflict(
          "They left too recently",
          "What tells who did what is kept for "
              + after.toDays()
              + " days after somebody leaves. Wait until "
              + earliest.toString().substring(0, 10)
              + ".");
    }
    Session own = viewer.signedIn();
    if (!signIn.prove(own, proof)) {
      throw Problem.forbidden(
          "Erasing somebody needs your second factor. Set one up under You, then write its code.");
    }
    if (it.there()) {
      Catalogue now = context.state().engine().catalogue();
      drafts.applyNow(
          new UnattendedDrafts.Plan(
              own.principal().value(),
              "Remove " + it.known().about().nameOr(it.known().key()),
              reason,
              "",
              Parting.removal(now, it.known())),
          new Session(own.principal(), own.at(), true, null));
    }
    store.order(
        key, it.known().account().value(), own.principal().value(), clock.instant(), reason);
  }

  private @Nullable Instant earliest(Leaver it) {
    Instant left = it.left();
    return left == null ? null : left.plus(after);
  }

  private Leaver require(String key, RequestContext context) {
    Catalogue now = context.state().engine().catalogue();
    Principal there = key.isBlank() ? null : now.principals().get(new PrincipalKey(key));
    if (there != null && context.readPolicy().mayRead(there)) {
      requireOwner(there, context);
      if (there.status() != Principal.Status.LEFT) {
        throw Problem.conflict(
            "They have not left",
            "Choose Part with them first; erasing is for those who left long ago.");
      }
      return new Leaver(there, true, left(there.key(), null));
    }
    Optional<ErasureStore.Gone> gone = there == null ? store.gone(key) : Optional.empty();
    Principal known =
        gone.map(it -> (Principal) ThingDocument.read(Kind.PRINCIPALS, it.json()).thing())
            .filter(it -> isOwner(it, context))
            .orElseThrow(() ->
                Problem.notFound(
                    "There is nobody called '" + key + "' whom you can erase. Check the key."));
    return new Leaver(known, false, left(known.key(), gone.orElseThrow().revision()));
  }

  private @Nullable Instant left(PrincipalKey key, @Nullable Long removedIn) {
    return history
        .leftIn(key)
        .or(() -> Optional.ofNullable(removedIn))
        .flatMap(history::entry)
        .map(Revision::at)
        .orElse(null);
  }

  private void requireOwner(Principal it, RequestContext context) {
    if (!isOwner(it, context)) {
      throw Problem.forbidden(
          "Only an owner of the account above '" + it.key() + "' may erase them. Ask one.");
    }
  }

  private boolean isOwner(Principal it, RequestContext context) {
    AccountKey root = context.state().engine().catalogue().rootOf(it.account());
    return Authority.ownersOf(model.engine(), root, clock.instant())
        .contains(context.readPolicy().viewer());
  }
}
