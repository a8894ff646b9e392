package mandala.server.lifecycle;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import mandala.core.lifecycle.WatchRule;
import mandala.core.lifecycle.WatchRule.Hit;
import mandala.core.model.Principal;
import mandala.server.authorization.RequestContext;
import mandala.server.session.SeenTimes;
import mandala.server.session.SignInLinks;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Finds whom a rule that watches is about on a day, as far as somebody may manage them. */
@Component
class WatchLook {

  private final WatchRules rules;
  private final SeenTimes seen;
  private final SignInLinks links;

  WatchLook(WatchRules rules, SeenTimes seen, SignInLinks links) {
    this.rules = rules;
    this.seen = seen;
    this.links = links;
  }

  /**
   * What a rule finds.
   *
   * @param acting on whom it acts now
   * @param toWarn whom it warns now; of services: which it reports
   * @param waiting who was warned, and still has time
   */
  record Found(List<Hit> acting, List<Hit> toWarn, List<Hit> waiting) {}

  /**
   * {@return what a rule finds now}; nobody is suspended without the time that its warning gives
   *
   * @param number of the rule, null of one that is not kept
   * @param known since when it watches
   * @param context of whose rights it acts with
   */
  Found found(@Nullable Long number, WatchRule rule, Instant known, RequestContext context) {
    Instant now = context.readPolicy().now();
    List<Hit> hits =
        rule.hits(context.state().engine(), now, seen(rule), known).stream()
            .filter(it ->
                context.readPolicy().mayRead(it.who()) && context.cannotChange(it.who()) == null)
            .toList();
    Map<String, Instant> warned = number == null ? Map.of() : rules.warned(number, hits);
    Integer warnAfter = rule.warnAfter();
    if (rule.what() == WatchRule.What.SERVICES || warnAfter != null) {
      List<Hit> toWarn =
          hits.stream().filter(it -> !warned.containsKey(it.who().key().value())).toList();
      Duration left =
          Duration.ofDays(warnAfter == null ? 0 : Math.max(0, rule.after() - warnAfter));
      List<Hit> acting =
          rule.what() == WatchRule.What.SERVICES
              ? List.of()
              : hits.stream()
                  .filter(it -> {
                    Instant at = warned.get(it.who().key().value());
                    return at != null && it.acts(now) && !at.plus(left).isAfter(now);
                  })
                  .toList();
      return new Found(
          acting,
          toWarn,
          hits.stream().filter(it -> !toWarn.contains(it) && !acting.contains(it)).toList());
    }
    return new Found(hits.stream().filter(it -> it.acts(now)).toList(), List.of(), List.of());
  }

  private Function<Principal, @Nullable Instant> seen(WatchRule rule) {
    if (rule.what() == WatchRule.What.INVITATIONS) {
      Map<String, Instant> invited = links.invitedSince();
      return it -> invited.get(it.key().value());
    }
    seen.refresh();
    return seen::of;
  }
}
