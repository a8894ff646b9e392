package mandala.server.use;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import mandala.core.excess.UseRecord;
import mandala.core.model.Permission;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.authorization.UsedRights;
import mandala.server.model.LiveModel;
import mandala.server.platform.Background;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

/**
 * Records the use of Mandala's own permissions: whoever runs it needs them. Gathered in memory,
 * each right once a day, and written every minute and when the server stops.
 */
@Component
class OwnUse extends Background implements UsedRights {

  private final LiveModel model;
  private final UseImport imports;
  private final Clock clock;
  private final Set<UseRecord> gathered = ConcurrentHashMap.newKeySet();

  /** What was written of the day that is written now. */
  private final Set<UseRecord> written = ConcurrentHashMap.newKeySet();

  private volatile @Nullable LocalDate day;

  OwnUse(
      LiveModel model,
      UseImport imports,
      Clock clock,
      @Value("${mandala.use.written-every:60000}") long millis) {
    super("own-use", millis);
    this.model = model;
    this.imports = imports;
    this.clock = clock;
  }

  @Override
  public void used(PrincipalKey who, PermissionKey permission, ResourceKey place) {
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    UseRecord record = new UseRecord(who, permission, place, today, 1, null);
    if (!written.contains(record)) {
      gathered.add(record);
    }
  }

  @Override
  public void asked(PrincipalKey who, PermissionKey permission, ResourceKey place) {
    HttpServletRequest call =
        RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes attributes
            ? attributes.getRequest()
            : null;
    if (call == null || AuditContext.isView()) {
      return;
    }
    Permission it = model.engine().catalogue().permissions().get(permission);
    boolean reads = it != null && it.accessClass() == Permission.AccessClass.VIEW;
    if (reads || !(call.getMethod().equals("GET") || call.getMethod().equals("HEAD"))) {
      used(who, permission, place);
    }
  }

  @Override
  protected void run() throws IOException {
    write();
  }

  /** Writes what was gathered. */
  void write() throws IOException {
    List<UseRecord> some = new ArrayList<>(gathered);
    if (some.isEmpty()) {
      return;
    }
    imports.takeOwn(
        UseSources.OWN_NUMBER,
        UseSources.OWN,
        UUID.randomUUID().toString(),
        some,
        model.engine().catalogue());
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    if (!today.equals(day)) {
      written.clear();
      day = today;
    }
    written.addAll(some);
    some.forEach(gathered::remove);
  }
}
