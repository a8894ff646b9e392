package mandala.server.catalog;

import java.util.List;
import java.util.Locale;
import mandala.core.lifecycle.PersonnelList;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import org.jspecify.annotations.Nullable;

/**
 * Which people and services a list shows, and in which order; what is absent or blank asks nothing.
 * Where a parameter takes a key, {@code -} asks for who has none.
 *
 * @param account this account and all below it; all where absent
 * @param text in name, key or title
 * @param state any of these words, between commas; {@code kind} and {@code title} likewise
 * @param kind {@code person}, {@code service} or {@code guest}, who is at home elsewhere
 * @param unit this unit and all below it
 * @param group who is in it, by list, by rule or through another group
 * @param role who holds it, through whatever gives it
 * @param manager who reports to them
 * @param unseen not seen for more than so many days, or never
 * @param factor {@code yes} with a second factor, {@code no} without
 * @param signIn {@code password} or {@code none}; of those whom the viewer may manage
 * @param ends whose time ends within so many days
 * @param exposed with an exposure of at least so much; of those whose whole access the viewer may
 *     see
 * @param by {@code account}, {@code unit}, {@code manager}, {@code role} or {@code group}: what the
 *     list is grouped by
 * @param of with {@code by}: only the group of this key
 * @param sort {@code name}, {@code title}, {@code state}, {@code unit}, {@code account}, {@code
 *     seen}, {@code ends}, {@code exposure}, {@code unused} or {@code share}, of which who has no
 *     figure comes last; a minus before it turns the order round; by name where absent
 */
record PeopleFilter(
    @Nullable String account,
    @Nullable String text,
    @Nullable String state,
    @Nullable String kind,
    @Nullable String title,
    @Nullable String unit,
    @Nullable String group,
    @Nullable String role,
    @Nullable String manager,
    @Nullable Integer unseen,
    @Nullable String factor,
    @Nullable String signIn,
    @Nullable Integer ends,
    @Nullable Long exposed,
    @Nullable String by,
    @Nullable String of,
    @Nullable String sort) {

  /** In place of a key: who has none. */
  static final String NONE = "-";

  /** {@return the account looked at}, null for all */
  @Nullable AccountKey in() {
    String key = given(account);
    return key == null ? null : new AccountKey(key);
  }

  /** {@return a text}, null where it is blank */
  static @Nullable String given(@Nullable String text) {
    return text == null || text.isBlank() ? null : text;
  }

  /** {@return the words between commas}, null where nothing is asked */
  static @Nullable List<String> words(@Nullable String text) {
    String given = given(text);
    return given == null ? null : List.of(given.split(",", -1));
  }

  /** {@return whether guests are asked for}, who are at home elsewhere */
  boolean asksForGuests() {
    List<String> kinds = words(kind);
    return kinds != null && kinds.contains("guest");
  }

  /**
   * {@return whether a principal is among those whose name, key, title, address or personnel number
   * is asked for}
   */
  boolean names(Principal it) {
    String wanted = given(text);
    if (wanted == null) {
      return true;
    }
    String part = wanted.strip().toLowerCase(Locale.ROOT);
    String email = it.email();
    return it.key().value().contains(part)
        || it.about().nameOr(it.key()).toLowerCase(Locale.ROOT).contains(part)
        || it.attributes().getOrDefault("title", "").toLowerCase(Locale.ROOT).contains(part)
        || it.attributes().getOrDefault(PersonnelList.NUMBER, "").equalsIgnoreCase(part)
        || (email != null && email.toLowerCase(Locale.ROOT).contains(part));
  }

  static String word(Enum<?> constant) {
    return constant.name().toLowerCase(Locale.ROOT);
  }
}
