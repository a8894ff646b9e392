package mandala.server.lifecycle;

import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.Locale;
import mandala.core.lifecycle.WatchRule;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import org.jspecify.annotations.Nullable;

/**
 * A rule that watches, as somebody sets it up.
 *
 * @param what {@code persons} who are not seen are suspended, memberships of {@code guests} who are
 *     not seen end, {@code invitations} that nobody takes up lapse, {@code services} that are not
 *     used are reported
 * @param account in it and below it
 * @param group only who is in it; all where absent
 * @param warnAfter days after which they are warned by mail; no warning where absent
 * @param after days after which the rule acts
 * @param most how many it may act on at one look: above that it waits for its owner
 */
record WatchOrder(
    @NotBlank @Size(max = 100) String title,
    @NotNull @Pattern(regexp = "persons|guests|invitations|services") String what,
    @NotBlank @Size(max = 200) String account,
    @Nullable @Size(max = 200) String group,
    @Nullable @Min(1) @Max(3_660) Integer warnAfter,
    @Min(1) @Max(3_660) int after,
    @Min(1) @Max(100_000) int most) {

  /** {@return the same as somebody reads it who may not be told of its group} */
  WatchOrder withoutGroup() {
    return new WatchOrder(title, what, account, null, warnAfter, after, most);
  }

  /** {@return what is watched} */
  WatchRule.What watched() {
    return WatchRule.What.valueOf(what.toUpperCase(Locale.ROOT));
  }

  /** {@return the rule} */
  WatchRule rule() {
    return new WatchRule(
        watched(),
        new AccountKey(account),
        group == null || group.isBlank() ? null : new GroupKey(group),
        warnAfter,
        after);
  }
}
