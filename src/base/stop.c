#include "base/stop.h"

bool stop_wanted(Stop s)
{
    return s.wanted && s.wanted(s.ctx);
}
