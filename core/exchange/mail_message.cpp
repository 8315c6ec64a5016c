#include "exchange/mail_message.h"

#include <gmime/gmime.h>

#include <algorithm>
#include <array>
#include <memory>
#include <string_view>
#include <utility>

namespace fernleaf {
namespace {

void begin_once() {
    static const bool begun = [] {
        g_mime_init();
        return true;
    }();
    static_cast<void>(begun);
}

struct Unref {
    void operator()(void* object) const { g_object_unref(object); }
};
template <typename T>
using Owned = std::unique_ptr<T, Unref>;
using OwnedText = std::unique_ptr<char, decltype(&g_free)>;

std::string on_one_line(std::string text) {
    std::ranges::replace_if(
        text, [](char c) { return c == '\n' || c == '\r'; }, ' ');
    return text;
}

// Type and subtype by a name's ending.
std::pair<const char*, const char*> type_of(std::string_view name) {
    using Known = std::pair<std::string_view, std::pair<const char*, const char*>>;
    static constexpr std::array kKnown{Known{".pdf", {"application", "pdf"}}, Known{".png", {"image", "png"}},
                                       Known{".svg", {"image", "svg+xml"}}, Known{".txt", {"text", "plain"}},
                                       Known{".html", {"text", "html"}}};
    for (const auto& [ending, type] : kKnown)
        if (name.ends_with(ending)) return type;
    return {"application", "octet-stream"};
}

Result<Owned<InternetAddressList>> parsed(const std::string& typed) {
    begin_once();
    Owned<InternetAddressList> list(internet_address_list_parse(nullptr, on_one_line(typed).c_str()));
    const int count = list ? internet_address_list_length(list.get()) : 0;
    if (count == 0) return Error{"Type whom the message is for, such as ines@example.org."};
    for (int i = 0; i < count; ++i) {
        InternetAddress* address = internet_address_list_get_address(list.get(), i);
        const char* at = INTERNET_ADDRESS_IS_MAILBOX(address)
                             ? internet_address_mailbox_get_addr(INTERNET_ADDRESS_MAILBOX(address))
                             : nullptr;
        const std::string_view text = at ? at : "";
        const size_t sign = text.find('@');
        if (sign == 0 || sign == std::string_view::npos || sign + 1 == text.size()) {
            const OwnedText said(internet_address_to_string(address, nullptr, FALSE), &g_free);
            return Error{"“" + std::string(said.get()) + "” is no mail address. One looks like ines@example.org."};
        }
    }
    return list;
}

void attach(GMimeMultipart* whole, const MailAttachment& file) {
    const auto [type, subtype] = type_of(file.name);
    const Owned<GMimePart> part(g_mime_part_new_with_type(type, subtype));
    const Owned<GMimeStream> stream(g_mime_stream_mem_new_with_buffer(file.bytes.data(), file.bytes.size()));
    const Owned<GMimeDataWrapper> content(
        g_mime_data_wrapper_new_with_stream(stream.get(), GMIME_CONTENT_ENCODING_DEFAULT));
    g_mime_part_set_content(part.get(), content.get());
    g_mime_part_set_content_encoding(part.get(), GMIME_CONTENT_ENCODING_BASE64);
    g_mime_object_set_disposition(GMIME_OBJECT(part.get()), GMIME_DISPOSITION_ATTACHMENT);
    g_mime_part_set_filename(part.get(), file.name.c_str());
    g_mime_multipart_add(whole, GMIME_OBJECT(part.get()));
}

}  // namespace

Result<std::vector<std::string>> mail_addresses(const std::string& typed) {
    const auto list = parsed(typed);
    if (!list) return list.error();
    std::vector<std::string> out;
    for (int i = 0; i < internet_address_list_length(list->get()); ++i) {
        const OwnedText said(
            internet_address_to_string(internet_address_list_get_address(list->get(), i), nullptr, FALSE), &g_free);
        out.emplace_back(said.get());
    }
    return out;
}

Result<std::string> write_mail(const MailMessage& message, int64_t date_ms) {
    const auto to = parsed(message.to);
    if (!to) return to.error();
    const Owned<GMimeMessage> mail(g_mime_message_new(TRUE));
    internet_address_list_append(g_mime_message_get_to(mail.get()), to->get());
    g_mime_message_set_subject(mail.get(), on_one_line(message.subject).c_str(), "utf-8");
    GDateTime* when = g_date_time_new_from_unix_utc(date_ms / 1000);
    if (when) {
        g_mime_message_set_date(mail.get(), when);
        g_date_time_unref(when);
    }
    const Owned<GMimeMultipart> whole(g_mime_multipart_new_with_subtype("mixed"));
    const Owned<GMimeTextPart> text(g_mime_text_part_new_with_subtype("plain"));
    g_mime_text_part_set_charset(text.get(), "utf-8");
    g_mime_text_part_set_text(text.get(), message.text.c_str());
    g_mime_multipart_add(whole.get(), GMIME_OBJECT(text.get()));
    for (const MailAttachment& file : message.attachments) attach(whole.get(), file);
    g_mime_message_set_mime_part(mail.get(), GMIME_OBJECT(whole.get()));
    const OwnedText said(g_mime_object_to_string(GMIME_OBJECT(mail.get()), nullptr), &g_free);
    return std::string(said.get());
}

}  // namespace fernleaf
