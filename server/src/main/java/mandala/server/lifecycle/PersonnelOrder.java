package mandala.server.lifecycle;

import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import mandala.core.lifecycle.PersonnelList;
import mandala.core.lifecycle.PersonnelList.Fact;
import mandala.core.model.key.AccountKey;
import org.jspecify.annotations.Nullable;

/**
 * A list of the personnel office, as somebody sets it up.
 *
 * @param account it owns the people with a personnel number there and below
 * @param columns which column holds which fact, by fact; empty for none. Where absent, by the names
 *     of the columns
 * @param missing what becomes of who is missing from the list: they {@code leave}, or {@code stay}
 * @param most the share of its people that one list may remove, in percent: above that it stops
 * @param file its name in the account's folder on the server; where absent, it is given by hand
 * @param does with a file from the folder: {@code proposes} a draft, or {@code applies} it
 */
record PersonnelOrder(
    @NotBlank @Size(max = 100) String title,
    @NotBlank @Size(max = 200) String account,
    @NotNull @Size(max = 20) Map<String, @NotNull @Size(max = 200) String> columns,
    @NotNull @Pattern(regexp = "leave|stay") String missing,
    @Min(0) @Max(100) int most,
    @Nullable
        @Pattern(
            regexp = "[A-Za-z0-9][A-Za-z0-9._-]{0,99}",
            message = "Write a file name of letters, digits, dots and hyphens")
        String file,
    @NotNull @Pattern(regexp = "proposes|applies") String does) {

  /** {@return whether a file of the folder is applied without asking} */
  boolean applies() {
    return does.equals("applies");
  }

  /**
   * {@return what the list owns}
   *
   * @param mapping which column holds which fact
   */
  PersonnelList list(Map<String, String> mapping) {
    Set<Fact> owned = EnumSet.of(Fact.NAME);
    for (Fact it : Fact.values()) {
      if (mapping.containsKey(it.name().toLowerCase(Locale.ROOT))) {
        owned.add(it);
      }
    }
    return new PersonnelList(new AccountKey(account), owned, missing.equals("leave"));
  }
}
