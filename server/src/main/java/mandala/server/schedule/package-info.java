/** What runs by itself: queues in the database that all instances share, and a timetable. */
@NullMarked
package mandala.server.schedule;

import org.jspecify.annotations.NullMarked;
