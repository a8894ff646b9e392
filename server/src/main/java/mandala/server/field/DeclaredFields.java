package mandala.server.field;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.check.Fault;
import mandala.core.model.key.AccountKey;
import mandala.server.platform.Problem;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Keeps the fields that accounts declare, and holds what somebody edits to them. The model itself
 * does not: whoever is there already without a field stays as they are.
 */
@Component
public class DeclaredFields {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final TypeReference<List<DeclaredField>> LIST = new TypeReference<>() {};

  private final JdbcTemplate database;

  DeclaredFields(JdbcTemplate database) {
    this.database = database;
  }

  /** {@return the fields that each account declares itself}, of those that declare any */
  public Map<AccountKey, List<DeclaredField>> all() {
    Map<AccountKey, List<DeclaredField>> all = new HashMap<>();
    database.query(
        "select account, fields from account_fields",
        row -> {
          all.put(new AccountKey(row.getString(1)), JSON.readValue(row.getString(2), LIST));
        });
    return all;
  }

  /** Declares the fields of an account in place of those before. */
  void declare(AccountKey account, List<DeclaredField> fields) {
    if (fields.isEmpty()) {
      database.update("delete from account_fields where account = ?", account.value());
    } else {
      database.update(
          "insert into account_fields (account, fields) values (?, ?)"
              + " on conflict (account) do update set fields = excluded.fields",
          account.value(),
          JSON.writeValueAsString(fields));
    }
  }

  /**
   * {@return the fields that hold in an account}, by key: its own, and those of the accounts above
   * it that it does not declare anew
   */
  public static Map<String, DeclaredField> of(
      AccountKey account, Map<AccountKey, List<DeclaredField>> declared, Catalogue in) {
    Map<String, DeclaredField> fields = new LinkedHashMap<>();
    AccountKey at = account;
    while (at != null) {
      declared.getOrDefault(at, List.of()).forEach(it -> fields.putIfAbsent(it.key(), it));
      Account it = in.accounts().get(at);
      at = it == null ? null : it.parent();
    }
    return fields;
  }

  /** {@return what is wrong with the attributes of somebody}, in sentences */
  public static List<String> faults(
      Map<String, DeclaredField> fields, Principal.Kind kind, Map<String, String> attributes) {
    List<String> faults = new ArrayList<>();
    for (DeclaredField it : fields.values()) {
      String value = attributes.getOrDefault(it.key(), "");
      if (value.isBlank()) {
        if (it.isRequiredOf(kind)) {
          faults.add("“" + it.label() + "” is missing.");
        }
      } else if (!it.takes(value)) {
        faults.add(
            "'%s' is no choice of “%s”: use one of %s."
                .formatted(value, it.label(), String.join(", ", it.choices())));
      }
    }
    return faults;
  }

  /**
   * Holds what somebody edits to the fields: who is new, and whose attributes, kind or home change.
   *
   * @throws Problem that lists what is missing
   */
  public void requireMet(Draft after, Draft before, Catalogue in) {
    List<Principal> edited = new ArrayList<>();
    Map<Draft.Id, Change> earlier = new HashMap<>();
    before.changes().forEach(it -> earlier.put(Draft.Id.of(it), it));
    for (Change change : after.changes()) {
      if (change.things().getLast() instanceof Principal is
          && !(change instanceof Change.Removed)
          && is.status() != Principal.Status.LEFT) {
        Change then = earlier.get(Draft.Id.of(change));
        Principal was =
            then != null
                ? (Principal) then.things().getLast()
                : change instanceof Change.Altered(var old, var _) ? (Principal) old : null;
        if (was == null || !sameFacts(was, is)) {
          edited.add(is);
        }
      }
    }
    Map<AccountKey, List<DeclaredField>> declared = edited.isEmpty() ? Map.of() : all();
    if (declared.isEmpty()) {
      return;
    }
    List<Fault> faults = new ArrayList<>();
    for (Principal it : edited) {
      for (String why : faults(of(it.account(), declared, in), it.kind(), it.attributes())) {
        faults.add(
            new Fault(
                "$.principals['" + it.key() + "'].attributes",
                it.about().nameOr(it.key()) + ": " + why,
                "Fill the field in"));
      }
    }
    if (!faults.isEmpty()) {
      throw Problem.faultyChange(
          "A field of their account is not filled in",
          "Nothing was added to the draft. Fix the errors listed and try again.",
          faults);
    }
  }

  private static boolean sameFacts(Principal was, Principal is) {
    return was.account().equals(is.account())
        && was.kind() == is.kind()
        && Objects.equals(was.attributes(), is.attributes());
  }
}
