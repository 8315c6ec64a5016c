// A contact as vCard 4.0 (RFC 6350) and an event as iCalendar (RFC 5545).
#pragma once

#include <string>

#include "finding/useful.h"

namespace fernleaf {

// A telephone number or mail address of somebody; the name may be empty, and the value stands in for it then.
std::string write_vcard(const std::string& name, const Useful& useful);

// A moment and what it is about. Without a time it is a whole day, with one it takes an hour; without a date it is on
// the day given. stamp: the time of making, UTC, as RFC 5545 writes it ("20260314T120000Z").
std::string write_event(const std::string& about, const Useful& useful, Date otherwise, const std::string& stamp);

}  // namespace fernleaf
