# Jubark as one image: front end built, server ready. The database is another container (compose.yaml).
# The commands are those of `./jubark start` (launcher/serving.py); a test compares them.
FROM docker.io/library/debian:12 AS build
RUN apt-get update -q && DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends \
    python3 python3-venv ca-certificates && rm -rf /var/lib/apt/lists/*
WORKDIR /srv/jubark
COPY . .
RUN python3 -m launcher build && rm -rf web/node_modules

FROM docker.io/library/debian:12
RUN apt-get update -q && DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends \
    python3 libgdal32 libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0 && rm -rf /var/lib/apt/lists/* && useradd --system --uid 417 jubark && \
    install -d -o jubark -m 0700 /var/lib/jubark/photographs
COPY --from=build --chown=root:root /srv/jubark /srv/jubark
WORKDIR /srv/jubark/server
USER jubark
ENV DJANGO_SETTINGS_MODULE=config.settings.production \
    PYTHONPATH=/srv/jubark:/srv/jubark/server \
    PYTHONDONTWRITEBYTECODE=1 \
    JUBARK_MEDIA=/var/lib/jubark/photographs \
    JUBARK_LISTEN=0.0.0.0:8417
EXPOSE 8417
HEALTHCHECK --interval=30s --timeout=5s --start-period=60s CMD ["../.venv/bin/python", "-c", "import urllib.request; urllib.request.urlopen('http://127.0.0.1:8417/api/ready/', timeout=4)"]
CMD ["../.venv/bin/python", "-m", "config.serve"]
