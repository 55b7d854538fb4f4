# Settings every target of the house shares.
set(CMAKE_CXX_STANDARD 17)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)
set(CMAKE_EXPORT_COMPILE_COMMANDS ON)
set(CMAKE_RUNTIME_OUTPUT_DIRECTORY "${CMAKE_BINARY_DIR}/bin")
if(NOT CMAKE_BUILD_TYPE)
  set(CMAKE_BUILD_TYPE Release)
endif()

find_program(GABARIT_CCACHE ccache)
if(GABARIT_CCACHE)
  set(CMAKE_CXX_COMPILER_LAUNCHER "${GABARIT_CCACHE}")
endif()

option(GABARIT_SANITIZE "Build with the address and undefined-behaviour sanitizers" OFF)
option(GABARIT_TIDY "Run clang-tidy while building" OFF)

if(GABARIT_TIDY)
  find_program(GABARIT_CLANG_TIDY clang-tidy REQUIRED)
endif()

# Our own code: warnings are errors. Library headers come in as SYSTEM.
add_library(gabarit_settings INTERFACE)
target_compile_options(gabarit_settings INTERFACE
  -Wall -Wextra -Wshadow -Wnon-virtual-dtor -Woverloaded-virtual -Werror)
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
