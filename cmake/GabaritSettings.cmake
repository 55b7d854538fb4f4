# Settings every target of the house shares.
set(CMAKE_CXX_STANDARD 17)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)
set(CMAKE_EXPORT_COMPILE_COMMANDS ON)
set(CMAKE_RUNTIME_OUTPUT_DIRECTORY "${CMAKE_BINARY_DIR}/bin")
if(NOT CMAKE_BUILD_TYPE)
  set(CMAKE_BUILD_TYPE Release)
endif()

# -O3 costs a quarter more compiling than -O2 and made no difference beyond the bench's noise.
set(CMAKE_CXX_FLAGS_RELEASE "-O2 -DNDEBUG")

find_program(GABARIT_CCACHE ccache)
if(GABARIT_CCACHE AND NOT CMAKE_CXX_COMPILER_LAUNCHER)
  # Precompiled headers are cached only when ccache may take their time stamps and macros on trust.
  set(CMAKE_CXX_COMPILER_LAUNCHER "${CMAKE_COMMAND}" -E env CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime "${GABARIT_CCACHE}")
endif()
find_program(GABARIT_LLD ld.lld)
if(GABARIT_LLD)
  add_link_options(-fuse-ld=lld)
endif()

option(GABARIT_GROUPED "Compile sources in groups: less than half of the time from nothing (docs/building.md)" ON)

option(GABARIT_SANITIZE "Build with the address and undefined-behaviour sanitizers" OFF)
option(GABARIT_TIDY "Run clang-tidy while building" OFF)

if(GABARIT_TIDY)
  find_program(GABARIT_CLANG_TIDY clang-tidy REQUIRED)
endif()

# Our own code: warnings are errors. Library headers come in as SYSTEM.
add_library(gabarit_settings INTERFACE)
target_compile_options(gabarit_settings INTERFACE
  -Wall -Wextra -Wnon-virtual-dtor -Woverloaded-virtual -Werror
  # In a group every file sees the others' unnamed namespaces: there only what a function hides of itself is told.
  $<IF:$<BOOL:${GABARIT_GROUPED}>,-Wshadow=local,-Wshadow>)
if(GABARIT_SANITIZE)
  add_compile_options(-fsanitize=address,undefined -fno-sanitize-recover=undefined -fno-omit-frame-pointer)
  add_link_options(-fsanitize=address,undefined)
endif()

option(GABARIT_FUZZ "Build the fuzz target, with clang" OFF)
if(GABARIT_FUZZ)
  add_compile_options(-fsanitize=fuzzer-no-link,address,undefined -fno-sanitize-recover=undefined)
  add_link_options(-fsanitize=address,undefined)
endif()

find_package(Threads REQUIRED)
