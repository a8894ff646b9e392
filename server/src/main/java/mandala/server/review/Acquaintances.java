package mandala.server.review;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.authorization.RequestContext;
import org.springframework.stereotype.Component;

/**
 * People whom a reviewer knows without being able to search the directory: their manager, those
 * about whom they decide, and whoever runs these rounds.
 */
@Component
class Acquaintances {

  private final ReviewStore store;

  Acquaintances(ReviewStore store) {
    this.store = store;
  }

  /** {@return active people whom the viewer knows}, without themselves */
  List<Principal> of(RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    PrincipalKey me = context.readPolicy().viewer();
    Principal self = catalogue.principals().get(me);
    Set<String> keys = new LinkedHashSet<>();
    if (self != null && self.manager() != null) {
      keys.add(self.manager().value());
    }
    keys.addAll(store.acquaintances(me.value()));
    List<Principal> known = new ArrayList<>();
    for (String key : keys) {
      Principal it = catalogue.principals().get(new PrincipalKey(key));
      if (it != null
          && !it.key().equals(me)
          && it.kind() == Principal.Kind.PERSON
          && context.state().engine().isActive(it.key(), context.readPolicy().now())) {
        known.add(it);
      }
    }
    return known;
  }

  /** {@return whether the viewer may read somebody, or knows them} */
  boolean isKnown(Principal it, RequestContext context) {
    return context.naming().tells(Kind.PRINCIPALS, it.key().value()) || of(context).contains(it);
  }

  /** {@return the name of somebody whom the viewer may read, or knows}, else a word in its place */
  String name(String key, RequestContext context) {
    Principal it = context.state().engine().catalogue().principals().get(new PrincipalKey(key));
    return it != null && isKnown(it, context)
        ? it.about().nameOr(it.key())
        : context.text().name(Kind.PRINCIPALS, key);
  }

  /** {@return the same as the API tells them} */
  List<ReviewController.PassTarget> targets(RequestContext context) {
    return of(context).stream()
        .map(it -> new ReviewController.PassTarget(it.key().value(), it.about().nameOr(it.key())))
        .toList();
  }
}
