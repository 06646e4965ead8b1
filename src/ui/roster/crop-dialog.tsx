'use client';
import { Modal } from 'react-bootstrap';
import type { ShownPicture } from '@/core/roster';
import { PhotoCrop } from '@/ui/record/photo-crop';
import { call } from '@/ui/studio/call';

/** Cuts another square from a picture of a run, as a record's photo is cut. */
export function CropDialog({ run, picture, onClose }: { run: string; picture: ShownPicture; onClose: () => void }) {
  const { name, square, crop } = picture;
  return (
    <Modal show size="lg" onHide={onClose} animation={false} aria-labelledby="crop-title">
      <Modal.Header closeButton>
        <Modal.Title id="crop-title">{name}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <PhotoCrop
          detail={{
            ...{ kind: 'photo', id: 'photo', label: '', preferred: false, picture: square },
            ...(crop ? { crop } : {}),
          }}
          cut={({ from: _, ...how }) => call(`/api/roster/${run}/crop`, { method: 'PUT', json: { name, crop: how } })}
          onChange={onClose}
          onClose={onClose}
        />
      </Modal.Body>
    </Modal>
  );
}
