/* What another program shares to Yoshi comes as a form to /open; it is laid aside here, and the page takes it from there. */
self.addEventListener("fetch", (event) => {
  const { pathname } = new URL(event.request.url);
  if (event.request.method !== "POST" || pathname !== "/open") return;
  event.respondWith(
    (async () => {
      const file = (await event.request.formData()).get("file");
      if (file && typeof file !== "string") {
        const place = await caches.open("yoshi-shared");
        await place.put("/open/file", new Response(file, { headers: { "X-Name": encodeURIComponent(file.name) } }));
      }
      return Response.redirect("/open", 303);
    })(),
  );
});
