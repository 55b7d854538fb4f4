// Large structures are copied, moved and taken down by code that is compiled in one source, not wherever one is used:
// more than half of all compiled code was that.
#pragma once

/// Within the structure, last. It is no aggregate then.
#define GABARIT_ONCE_DECLARED(T)                                                                                       \
    T();                                                                                                               \
    T(const T& other);                                                                                                 \
    T(T&& other) noexcept;                                                                                             \
    T& operator=(const T& other);                                                                                      \
    T& operator=(T&& other) noexcept;                                                                                  \
    ~T()

/// In that source, within the structure's namespace.
#define GABARIT_ONCE_DEFINED(T)                                                                                        \
    T::T() = default;                                                                                                  \
    T::T(const T& other) = default;                                                                                    \
    T::T(T&& other) noexcept = default;                                                                                \
    T& T::operator=(const T& other) = default;                                                                         \
    T& T::operator=(T&& other) noexcept = default;                                                                     \
    T::~T() = default
