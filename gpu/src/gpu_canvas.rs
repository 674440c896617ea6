//! A texture for the picture of a view.

use velvet_pan::glam::UVec2;
use velvet_pan::{Canvas, View};
use wgpu::{
    BindGroup, BindGroupDescriptor, BindGroupEntry, BindGroupLayout, BindingResource, Color,
    Device, Extent3d, LoadOp, Operations, Origin3d, Queue, RenderPassColorAttachment, StoreOp,
    TexelCopyBufferLayout, TexelCopyTextureInfo, Texture, TextureAspect, TextureDescriptor,
    TextureDimension, TextureFormat, TextureSampleType, TextureUsages, TextureView,
};

use crate::error::PresentError;

/// A canvas on the graphics card: the texture into which the game draws the picture of a view, and which a
/// [`Presenter`](crate::Presenter) draws into the window.
///
/// Its size in pixels is [`View::canvas_size`]. Call [`fit`](Self::fit) before each frame. All layers of a view have
/// the same canvas size, so they can share one canvas, one after the other.
///
/// Create it with [`Presenter::canvas`](crate::Presenter::canvas).
#[derive(Debug)]
pub struct GpuCanvas {
    layout: BindGroupLayout,
    texture: Texture,
    view: TextureView,
    bind_group: BindGroup,
    size: UVec2,
}

impl GpuCanvas {
    pub(crate) fn new(
        device: &Device,
        layout: &BindGroupLayout,
        size: UVec2,
        format: TextureFormat,
    ) -> Result<Self, PresentError> {
        let usage = TextureUsages::RENDER_ATTACHMENT | TextureUsages::TEXTURE_BINDING;
        let allowed = format.guaranteed_format_features(device.features()).allowed_usages;
        let read = format.sample_type(None, None);
        if !allowed.contains(usage) || !matches!(read, Some(TextureSampleType::Float { .. })) {
            return Err(PresentError::Canvas(format));
        }
        let limit = device.limits().max_texture_dimension_2d;
        if size.max_element() > limit {
            return Err(PresentError::TooLarge { size, limit });
        }
        let texture = device.create_texture(&TextureDescriptor {
            label: Some("canvas"),
            size: Extent3d { width: size.x, height: size.y, depth_or_array_layers: 1 },
            mip_level_count: 1,
            sample_count: 1,
            dimension: TextureDimension::D2,
            format,
            usage: usage | TextureUsages::COPY_DST | TextureUsages::COPY_SRC,
            view_formats: &[],
        });
        let view = texture.create_view(&Default::default());
        let bind_group = device.create_bind_group(&BindGroupDescriptor {
            label: Some("canvas"),
            layout,
            entries: &[BindGroupEntry {
                binding: 0,
                resource: BindingResource::TextureView(&view),
            }],
        });
        Ok(Self { layout: layout.clone(), texture, view, bind_group, size })
    }

    /// Resizes the canvas for this view if necessary. Returns whether it created a new texture. The new texture is
    /// empty, and views of the old one must not be used any more.
    ///
    /// The size changes only when [`View::canvas_size`] does: with other settings, and, with
    /// [`Fit::Reveal`](velvet_pan::Fit::Reveal), when the window is resized.
    ///
    /// # Errors
    ///
    /// [`PresentError::TooLarge`] if the device has no texture of this size. The canvas then stays as it was.
    pub fn fit(&mut self, device: &Device, view: &View) -> Result<bool, PresentError> {
        if view.canvas_size() == self.size {
            return Ok(false);
        }
        *self = Self::new(device, &self.layout, view.canvas_size(), self.format())?;
        Ok(true)
    }

    /// Returns the size in pixels.
    #[must_use]
    pub fn size(&self) -> UVec2 {
        self.size
    }

    /// Returns the format of the texture.
    #[must_use]
    pub fn format(&self) -> TextureFormat {
        self.texture.format()
    }

    /// Returns the texture.
    #[must_use]
    pub fn texture(&self) -> &Texture {
        &self.texture
    }

    /// Returns the texture view to draw into.
    #[must_use]
    pub fn view(&self) -> &TextureView {
        &self.view
    }

    /// Returns the attachment for a render pass that draws into the canvas, after clearing it with this colour.
    ///
    /// For a canvas that is blended over others, clear with [`Color::TRANSPARENT`] and draw with premultiplied
    /// blending.
    #[must_use]
    pub fn cleared(&self, color: Color) -> RenderPassColorAttachment<'_> {
        RenderPassColorAttachment {
            view: &self.view,
            depth_slice: None,
            resolve_target: None,
            ops: Operations { load: LoadOp::Clear(color), store: StoreOp::Store },
        }
    }

    /// Uploads a picture that was drawn on the CPU, into a texture with four channels of 8 bits. Rows and columns
    /// beyond the canvas are ignored. If the data is shorter than the size says, only the existing part is uploaded.
    pub fn upload(&self, queue: &Queue, picture: Canvas<'_>) {
        let size = picture.size.min(self.size);
        let rows = match picture.data.len().checked_sub(size.x as usize) {
            Some(rest) => (rest / picture.stride.max(1) + 1).min(size.y as usize) as u32,
            None => 0,
        };
        if size.x == 0 || rows == 0 || self.format().block_copy_size(None) != Some(4) {
            return;
        }
        queue.write_texture(
            TexelCopyTextureInfo {
                texture: &self.texture,
                mip_level: 0,
                origin: Origin3d::ZERO,
                aspect: TextureAspect::All,
            },
            bytemuck::cast_slice(picture.data),
            TexelCopyBufferLayout {
                offset: 0,
                bytes_per_row: u32::try_from(picture.stride * 4).ok(),
                rows_per_image: None,
            },
            Extent3d { width: size.x, height: rows, depth_or_array_layers: 1 },
        );
    }

    pub(crate) fn bind_group(&self) -> &BindGroup {
        &self.bind_group
    }
}
