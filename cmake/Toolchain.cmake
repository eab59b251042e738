# How every target is compiled: language, warnings, sanitizers, caching, linker.
set(CMAKE_CXX_STANDARD 20)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)
if(NOT CMAKE_BUILD_TYPE)
  set(CMAKE_BUILD_TYPE Release)
endif()
# Results must not depend on assertions being compiled out of Eigen, so -O2 with asserts off only in release.
set(CMAKE_CXX_FLAGS_RELEASE "-O2 -DNDEBUG")

find_program(CCACHE_PROGRAM ccache)
if(CCACHE_PROGRAM)
  set(CMAKE_CXX_COMPILER_LAUNCHER ${CCACHE_PROGRAM})
endif()
find_program(MOLD_PROGRAM mold)
if(MOLD_PROGRAM)
  add_link_options(-fuse-ld=mold)
endif()

add_library(bevelsmith_options INTERFACE)
target_compile_options(bevelsmith_options INTERFACE
  -Wall -Wextra -Wpedantic -Wshadow -Wnon-virtual-dtor -Woverloaded-virtual -Wcast-align
  $<$<BOOL:${BEVELSMITH_STRICT}>:-Werror>)
target_include_directories(bevelsmith_options INTERFACE ${CMAKE_SOURCE_DIR}/src)
if(BEVELSMITH_SANITIZE)
  # A null, misaligned or too short object is what the address sanitizer stops at when it is used; to ask before each
  # use as well doubles the time of numerics full of small matrices.
  set(sanitizers -fsanitize=address,undefined,float-cast-overflow -fno-sanitize=null,alignment,object-size)
  # A report ends the program, so that no test passes over one.
  target_compile_options(bevelsmith_options INTERFACE ${sanitizers} -fno-sanitize-recover=all -fno-omit-frame-pointer)
  target_link_options(bevelsmith_options INTERFACE ${sanitizers})
endif()
if(BEVELSMITH_TSAN)
  target_compile_options(bevelsmith_options INTERFACE -fsanitize=thread -fno-omit-frame-pointer)
  target_link_options(bevelsmith_options INTERFACE -fsanitize=thread)
endif()
if(BEVELSMITH_FUZZ)
  target_compile_options(bevelsmith_options INTERFACE -fsanitize=fuzzer-no-link)
endif()
if(BEVELSMITH_COVERAGE)
  target_compile_options(bevelsmith_options INTERFACE --coverage)
  target_link_options(bevelsmith_options INTERFACE --coverage)
endif()
